import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { formats as formatsQuery } from "../../api/bakes";
import { wordsFor } from "../../api/client";
import { encodings as encodingsQuery } from "../../api/encodings";
import { deliveries, estimate as estimateQuery, useDeliver, type DeliveryChoice } from "../../api/projects";
import type { Project, Shot } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Choice } from "../../kit/Choice";
import { Notice } from "../../kit/Notice";
import { NumberBox } from "../../kit/NumberBox";
import { Picker } from "../../kit/Picker";
import { PlainList } from "../../kit/PlainList";
import { Sheet, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { encodingsIn } from "../encodingsIn";
import { firstChoice } from "./firstChoice";
import { KeptChoices } from "./KeptChoices";
import { sizeOf, timeOf } from "../../kit/amounts";
import { EncodingPicker } from "../../media/EncodingPicker";

const Body = styled.div`
  display: grid;
  grid-template-columns: 420px minmax(0, 1fr);
  min-height: 0;
  flex: 1;
`;
const Side = styled.div`
  display: grid;
  gap: 14px;
  padding: 18px 22px;
  align-content: start;
  overflow-y: auto;
  min-height: 0;
  h3 {
    font-weight: 600;
  }
  p,
  small {
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Preview = styled(Side)`
  background: ${(p) => p.theme.tokens.paper};
  border-left: 1px solid ${(p) => p.theme.tokens.line};
  li {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: ${(p) => p.theme.tokens.size.small};
    overflow-wrap: anywhere;
    padding: 2px 0;
  }
`;
const Two = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
`;
const Size = styled.div`
  display: grid;
  grid-template-columns: auto 56px;
  gap: 8px;
  align-items: end;
`;
const PICTURES = [
  { id: "", name: "None" },
  { id: "png", name: "PNG, 16 bit" },
  { id: "tiff", name: "TIFF, 16 bit" },
  { id: "jpeg", name: "JPEG" },
  { id: "openexr", name: "EXR, half float" },
  { id: "dpx", name: "DPX, 16 bit" },
];
const CLIPS = [
  { id: "", name: "None" },
  { id: "h264", name: "H.264, 8 bit" },
  { id: "prores", name: "ProRes 422 HQ, 10 bit" },
  { id: "prores4444", name: "ProRes 4444, 10 bit" },
  { id: "h265", name: "H.265, 10 bit" },
  { id: "vc3", name: "VC-3 (HQX), 10 bit" },
  { id: "ffv1", name: "FFV1, 16 bit, without loss" },
];

const SIZES = [
  { id: "0", name: "As they come" },
  ...[1080, 720, 540].map((lines) => ({
    id: String(lines),
    name: `A smaller copy, of at most ${String(lines)} lines`,
  })),
];

interface Props {
  readonly project: Project;
  readonly chosen: readonly Shot[];
  readonly onClose: () => void;
  readonly onAsked: (number: number) => void;
}

/** What leaves the project: of which shots, as what, under which names; what it will be before it is begun. */
export function DeliverSheet({ project, chosen, onClose, onAsked }: Props) {
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const { data: formats = [] } = useQuery(formatsQuery);
  const send = useDeliver(project.id);
  const [of, setOf] = useState<"chosen" | "all">(chosen.length > 0 ? "chosen" : "all");
  const { data: past, error: noPast } = useQuery(deliveries(project.id));
  const [changed, setChanged] = useState<DeliveryChoice | null>(null);
  const choice = changed ?? firstChoice(project, past?.[0]?.choice);
  const set = (change: Partial<DeliveryChoice>) => setChanged({ ...choice, ...change });
  const whole: DeliveryChoice = { ...choice, shots: of === "chosen" ? chosen.map((one) => one.id) : [] };
  const {
    data: seen,
    error,
    isFetching,
  } = useQuery({ ...estimateQuery(project.id, whole), enabled: past !== undefined || noPast !== null });
  const moves = project.shots.some((one) => one.moving !== null);
  return (
    <Sheet title={`Deliver ${project.name}`} isOpen onClose={onClose} width="940px">
      <Body>
        <Side>
          <KeptChoices choice={choice} onTake={setChanged} />
          {chosen.length > 0 && (
            <Choice
              label="Which shots"
              value={of}
              options={[
                ["chosen", `The ${String(chosen.length)} chosen`],
                ["all", `All ${String(project.shots.length)}`],
              ]}
              onChange={setOf}
            />
          )}
          <EncodingPicker
            label="Delivered in"
            here={encodingsIn(project)}
            value={choice.encoding ?? ""}
            first={[
              { id: "", name: `As the project: ${encodings.find((one) => one.id === project.delivery)?.name ?? ""}` },
            ]}
            onChange={(encoding) => set({ encoding })}
          />
          <Two>
            <Picker
              label="Graded stills"
              value={choice.stills ?? ""}
              options={PICTURES}
              onChange={(id) => set({ stills: id as NonNullable<DeliveryChoice["stills"]> })}
            />
            {moves && (
              <Picker
                label="Graded sequences"
                value={choice.sequences ?? ""}
                options={PICTURES}
                onChange={(id) => set({ sequences: id as NonNullable<DeliveryChoice["sequences"]> })}
              />
            )}
            {moves && (
              <Picker
                label="Clips"
                value={choice.clips ?? ""}
                options={CLIPS}
                onChange={(id) => set({ clips: id as NonNullable<DeliveryChoice["clips"]> })}
              />
            )}
            <Picker
              label="A LUT for each shot"
              value={choice.luts ?? ""}
              options={[{ id: "", name: "None" }, ...formats.map((one) => ({ id: one.id, name: one.name }))]}
              onChange={(luts) => set({ luts })}
            />
          </Two>
          {choice.luts && (
            <Size>
              <small>Nodes a side; trims are folded in, spatial steps left out and told</small>
              <NumberBox
                label="Nodes a side"
                value={choice.lut_size ?? 33}
                low={2}
                high={129}
                step={1}
                digits={0}
                neutral={33}
                onChange={(lut_size) => set({ lut_size })}
              />
            </Size>
          )}
          {choice.clips && (
            <>
              <Picker
                label="Size of clips"
                value={String(choice.lines ?? 0)}
                options={SIZES}
                onChange={(lines) => set({ lines: Number(lines) })}
              />
              <Check isOn={choice.constant ?? false} onChange={(constant) => set({ constant })}>
                Frames of unequal length become equally long
              </Check>
              <Check isOn={choice.burn ?? false} onChange={(burn) => set({ burn })}>
                Names and timecode in the picture
              </Check>
              <TextBox
                label="A mark at the top of clips"
                value={choice.mark ?? ""}
                onChange={(mark) => set({ mark })}
                maxLength={60}
                placeholder="For review"
              />
            </>
          )}
          <Check isOn={choice.cdl ?? false} onChange={(cdl) => set({ cdl })}>
            Trims as ASC CDLs (.ccc)
          </Check>
          <Check isOn={choice.timeline ?? false} onChange={(timeline) => set({ timeline })}>
            Timeline: OpenTimelineIO, and an edit list with CDLs
          </Check>
          <Check isOn={choice.looks ?? false} onChange={(looks) => set({ looks })}>
            The looks that were used
          </Check>
          <Check isOn={choice.sheet ?? false} onChange={(sheet) => set({ sheet })}>
            Contact sheet (PDF)
          </Check>
          <TextBox
            label="Names: {project} {code} {scene} {shot} {look} {version} {encoding} {delivery}"
            value={choice.template ?? ""}
            onChange={(template) => set({ template })}
            maxLength={120}
          />
        </Side>
        <Preview aria-label="What it will be" role="region">
          <h3>What it will be</h3>
          {error ? (
            <Notice>{wordsFor(error)}</Notice>
          ) : seen ? (
            <>
              <p role="status">
                Delivery {seen.number}: {seen.files} {seen.files === 1 ? "file" : "files"} and its lists in {seen.parts}{" "}
                {seen.parts === 1 ? "part" : "parts"}, about {timeOf(seen.seconds)} for one worker, about{" "}
                {sizeOf(seen.bytes)}.
              </p>
              {seen.room && <Notice>{seen.room}</Notice>}
              <PlainList aria-label="Names">
                {seen.names.map((one) => (
                  <li key={one}>{one}</li>
                ))}
                {seen.files > seen.names.length && <li>and {seen.files - seen.names.length} more</li>}
              </PlainList>
              {seen.left_out.length > 0 && (
                <>
                  <h3>Left out, or done otherwise</h3>
                  <PlainList>
                    {seen.left_out.slice(0, 12).map((one) => (
                      <li key={one}>{one}</li>
                    ))}
                    {seen.left_out.length > 12 && <li>and {seen.left_out.length - 12} more</li>}
                  </PlainList>
                </>
              )}
            </>
          ) : (
            <p>Working it out…</p>
          )}
          {send.error && <Notice>{wordsFor(send.error)}</Notice>}
        </Preview>
      </Body>
      <SheetFoot>
        <Secondary onPress={onClose}>Cancel</Secondary>
        <Primary
          isDisabled={Boolean(error) || isFetching || !seen}
          isPending={send.isPending}
          onPress={() => send.mutate(whole, { onSuccess: ({ number }) => onAsked(number) })}
        >
          Deliver
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
