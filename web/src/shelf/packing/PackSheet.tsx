import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import styled from "styled-components";
import { formats as formatsQuery } from "../../api/bakes";
import { wordsFor } from "../../api/client";
import { packPlan, usePack } from "../../api/packing";
import { pictures as picturesQuery } from "../../api/pictures";
import { useMay } from "../../api/session";
import type { PackChoice } from "../../api/types";
import { JobLine, useJob } from "../../jobs/JobLine";
import { Primary, Secondary } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Notice } from "../../kit/Notice";
import { PictureGrid } from "../../media/PictureGrid";
import { Picker } from "../../kit/Picker";
import { Sheet, SheetFoot } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";

const Body = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 28px;
  padding: 18px 22px;
  overflow-y: auto;
  min-height: 340px;
  section {
    display: grid;
    gap: 10px;
    align-content: start;
    min-width: 0;
  }
  h3 {
    font-weight: 600;
  }
  p {
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Boxes = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px 12px;
`;
const Left = styled.ul`
  margin: 0;
  padding: 0 0 0 16px;
  max-height: 150px;
  overflow-y: auto;
  overflow-wrap: anywhere;
`;
const Foot = styled.div`
  flex: 1;
  min-width: 0;
`;
const MOST_PICTURES = 4;
const SIZES = ["", "17", "25", "33", "49", "65"] as const;

interface Props {
  readonly entries: readonly number[];
  readonly onClose: () => void;
}

/** Chosen entries as one zip for others: which files, what the page shows, and what rights hold back. */
export function PackSheet({ entries, onClose }: Props) {
  const { data: known = [] } = useQuery(formatsQuery);
  const { data: all = [] } = useQuery(picturesQuery);
  const pictures = all.filter((one) => !one.passing);
  const [formats, setFormats] = useState<readonly string[]>(["cube"]);
  const [size, setSize] = useState<(typeof SIZES)[number]>("");
  const [shown, setShown] = useState<readonly number[] | null>(null);
  const [title, setTitle] = useState("Looks");
  const [pipelines, setPipelines] = useState(false);
  const [family, setFamily] = useState(true);
  const [tags, setTags] = useState(false);
  const [reason, setReason] = useState("");
  const [jobId, setJobId] = useState<number | null>(null);
  const curates = useMay("curate");
  const pack = usePack();
  const { job, running } = useJob(jobId);
  const on = shown ?? pictures.slice(0, 3).map((one) => one.id);
  const choice: PackChoice = {
    entries: [...entries],
    formats: formats.map((format) => ({ format, depth: 0, suffix: "" })),
    size: size === "" ? null : Number(size),
    pictures: [...on],
    tags,
    title: title.trim() || "Looks",
    reason,
    pipelines,
    family,
  };
  const asked = useDeferredValue(reason);
  const { data: plan, error } = useQuery({
    ...packPlan({ ...choice, reason: asked }),
    placeholderData: keepPreviousData,
  });
  const toggle = <T,>(all: readonly T[], one: T, isOn: boolean) =>
    isOn ? [...all, one] : all.filter((x) => x !== one);
  const trouble = error ?? pack.error;

  return (
    <Sheet title="Pack for others" isOpen onClose={onClose} width="860px">
      <Body>
        <section aria-label="Files">
          <TextBox label="Title" value={title} onChange={setTitle} maxLength={120} />
          <h3>Files</h3>
          <Boxes>
            {known.map((one) => (
              <Check
                key={one.id}
                isOn={formats.includes(one.id)}
                onChange={(isOn) => setFormats(toggle(formats, one.id, isOn))}
              >
                {one.name}
              </Check>
            ))}
          </Boxes>
          <Picker
            label="Grid points a side"
            value={size}
            options={SIZES.map((id) => ({ id, name: id === "" ? "As each LUT is; looks at 33" : id }))}
            onChange={(id) => setSize(id as (typeof SIZES)[number])}
          />
          <Check isOn={family} onChange={setFamily}>
            Each look with its family, every one as files of its own
          </Check>
          <h3>For pipelines</h3>
          <Check isOn={pipelines} onChange={setPipelines}>
            An OpenColorIO configuration
          </Check>
          <p>
            What is published as Looks, every encoding as a color space, views for sRGB and Rec.709. Looks between ACES
            encodings also come as ACES look transforms.
          </p>
        </section>
        <section aria-label="Page and rights">
          <h3>A page to look at</h3>
          <p>One HTML file that shows everything beside the original, without a network. On up to four pictures:</p>
          <PictureGrid
            pictures={pictures}
            chosen={new Set(on)}
            most={MOST_PICTURES}
            height={210}
            onChange={(chosen) => setShown([...chosen])}
          />
          <Check isOn={tags} onChange={setTags}>
            The page says our tags too
          </Check>
          <h3>Rights</h3>
          {plan && plan.left_out.length === 0 && <p>Nothing is held back.</p>}
          {plan && plan.left_out.length > 0 && (
            <>
              <p>
                {plan.left_out.length} of {entries.length} stay here, and the pack lists them:
              </p>
              <Left aria-label="Held back">
                {plan.left_out.map((one) => (
                  <li key={one.name}>
                    <bdi>{one.name}</bdi>: {one.why}
                  </li>
                ))}
              </Left>
            </>
          )}
          {plan && plan.inside.length > 0 && (
            <>
              <p>
                {plan.inside.length === 1 ? "A LUT goes" : `${String(plan.inside.length)} LUTs go`} with what holds it,
                and the pack lists it:
              </p>
              <Left aria-label="LUTs that go with them">
                {plan.inside.map((one) => (
                  <li key={`${one.name} ${one.used_by}`}>
                    <bdi>{one.name}</bdi>, in <bdi>{one.used_by}</bdi>
                    {one.rights && `: ${one.rights}`}
                  </li>
                ))}
              </Left>
            </>
          )}
          {curates && plan && (plan.left_out.length > 0 || reason !== "") && (
            <TextBox
              label="Let them out nevertheless, because"
              value={reason}
              onChange={setReason}
              maxLength={300}
              placeholder="The reason is kept with your name"
            />
          )}
        </section>
      </Body>
      <SheetFoot>
        <Foot>
          <JobLine id={jobId} what="Packing" cancelled="Cancelled. Nothing was kept." />
          {trouble && <Notice>{wordsFor(trouble)}</Notice>}
          {job?.state === "done" && (
            <Notice tone="word">
              <a href={job.download} download>
                {job.file_name}
              </a>{" "}
              is ready
              {job.left_out.length > 0 && `; ${String(job.left_out.length)} things were left out and are listed in it`}.
            </Notice>
          )}
        </Foot>
        <Secondary onPress={onClose}>Close</Secondary>
        <Primary
          isDisabled={formats.length === 0 || plan?.count === 0}
          isPending={pack.isPending || running}
          onPress={() => pack.mutate(choice, { onSuccess: (started) => setJobId(started.id) })}
        >
          Pack {plan?.count ?? entries.length}
        </Primary>
      </SheetFoot>
    </Sheet>
  );
}
