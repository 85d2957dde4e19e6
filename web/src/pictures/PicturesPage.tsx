import { useQuery } from "@tanstack/react-query";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import { createPortal } from "react-dom";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { encodings as encodingsQuery } from "../api/encodings";
import {
  isJob,
  pictures as picturesQuery,
  useChangePicture,
  useDeletePicture,
  useRestorePicture,
} from "../api/pictures";
import { useActions } from "../browser/actions";
import { useMay } from "../api/session";
import type { Picture } from "../api/types";
import { JobLine } from "../jobs/JobLine";
import { useOutcome } from "../jobs/useOutcome";
import { IconButton, Primary, WordButton } from "../kit/Button";
import { Check } from "../kit/Check";
import { Notice } from "../kit/Notice";
import { useTopSlot } from "../frame/TopBar";
import { BringInSheet } from "../media/BringInSheet";
import { oneLine } from "../kit/oneLine";
import { withoutMarks } from "../kit/PlainList";
import { EncodingPicker } from "../media/EncodingPicker";
import { FirstPictures } from "./FirstPictures";
import { WhiteChoice } from "./WhiteChoice";

const Page = styled.main`
  overflow-y: auto;
  padding: 22px 24px 40px;
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
`;
const Wall = styled.ul`
  ${withoutMarks}
  display: grid;
  gap: 24px 20px;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
`;
const Card = styled.li`
  min-width: 0;
  img {
    display: block;
    width: 100%;
    aspect-ratio: 16 / 9;
    object-fit: contain;
  }
`;
const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  margin-top: 8px;
  min-width: 0;
  b {
    flex: 1;
    min-width: 0;
    font-weight: 600;
    ${oneLine}
  }
`;
const Facts = styled.p`
  color: ${(p) => p.theme.surround.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
  margin: 1px 0 7px;
  ${oneLine}
`;
const Said = styled.div`
  margin-bottom: 18px;
  max-width: 720px;
  > a {
    color: inherit;
    text-decoration: underline;
    text-underline-offset: 3px;
  }
`;
const depths: Record<string, string> = { u8: "8 bit", u16: "16 bit", f16: "half float", f32: "float" };

/** What the file says of its encoding, and whether it is read so. */
function statedIn(picture: Picture, options: readonly { id: string; name: string }[]): string {
  const { stated, stated_encoding: meant, encoding } = picture;
  if (meant === "") return `Its ${stated}: none that Saucer knows`;
  if (meant === encoding) return `As its ${stated} says`;
  return `Its ${stated} means ${options.find((one) => one.id === meant)?.name ?? meant}; somebody chose otherwise`;
}

/** Every picture, what it is stored as, and what encoding it is in. */
export function PicturesPage() {
  const { data: all, error } = useQuery(picturesQuery);
  const [withShots, setWithShots] = useState(false);
  const standing = all?.filter((one) => !one.passing);
  const ofShots = standing?.filter((one) => one.of_shots && !one.test).length ?? 0;
  const pictures = standing?.filter((one) => withShots || one.test || !one.of_shots);
  const { data: encodings } = useQuery(encodingsQuery);
  const [bringing, setBringing] = useState(false);
  const [gone, setGone] = useState<Picture | null>(null);
  const slot = useTopSlot();
  const mayDesign = useMay("design");
  const navigate = useNavigate();
  const change = useChangePicture();
  const remove = useDeletePicture();
  const restore = useRestorePicture();
  const [reading, setReading] = useState<number | null>(null);
  useOutcome(reading, ["pictures"], () => setReading(null));
  useActions(mayDesign ? [{ name: "Bring in a picture", run: () => setBringing(true) }] : []);
  const trouble = error ?? change.error ?? remove.error ?? restore.error;
  const options = encodings ?? [];
  const readAs = (how: { id: number; encoding?: string; white?: number }, onRefused?: () => void) =>
    change.mutate(how, { onSuccess: (answer) => isJob(answer) && setReading(answer.id), onError: onRefused });

  return (
    <Page>
      <Said>
        <Link to="/encodings">Encodings, and how to make your own</Link>
      </Said>
      {slot && mayDesign && createPortal(<Primary onPress={() => setBringing(true)}>Bring in a picture</Primary>, slot)}
      {trouble && (
        <Said>
          <Notice>{wordsFor(trouble)}</Notice>
        </Said>
      )}
      {reading !== null && (
        <Said>
          <JobLine id={reading} what="Reading it anew" cancelled="Cancelled. It is read as it was." />
        </Said>
      )}
      {gone && (
        <Said>
          <Notice tone="word">
            <bdi>{gone.name}</bdi> was deleted.{" "}
            <WordButton onPress={() => restore.mutate(gone.id, { onSuccess: () => setGone(null) })}>
              Bring it back
            </WordButton>
          </Notice>
        </Said>
      )}
      {ofShots > 0 && (
        <Said>
          <Check isOn={withShots} onChange={setWithShots}>
            With the {ofShots} that are shots of projects
          </Check>
        </Said>
      )}
      {standing?.length === 0 &&
        (mayDesign ? <FirstPictures /> : <p>There are no pictures yet. A designer can bring them in.</p>)}
      <Wall aria-label="Pictures">
        {pictures?.map((picture) => (
          <Card key={picture.id}>
            <img
              src={`/api/pictures/${picture.id}/frame.png?${picture.state}-${picture.encoding}`}
              alt={picture.name}
              loading="lazy"
            />
            <Row>
              <b title={picture.file_name}>{picture.name}</b>
              {picture.may_change && (
                <IconButton
                  aria-label={`Delete ${picture.name}`}
                  onPress={() => remove.mutate(picture.id, { onSuccess: () => setGone(picture) })}
                >
                  <Trash2 aria-hidden />
                </IconButton>
              )}
            </Row>
            <Facts>
              {picture.width} × {picture.height}, {picture.kind === "openexr" ? "EXR" : picture.kind.toUpperCase()},{" "}
              {depths[picture.depth]}
              {picture.white > 0 && `, white ${String(picture.white)} K`}
              {picture.mended > 0 && `, ${picture.mended} pixels that were not finite`}
              {picture.note && ` · ${picture.note}`}
            </Facts>
            {picture.stated && <Facts title={statedIn(picture, options)}>{statedIn(picture, options)}</Facts>}
            {picture.may_change ? (
              <EncodingPicker
                label={`Encoding of ${picture.name}`}
                hideLabel
                value={picture.encoding}
                onChange={(encoding) => readAs({ id: picture.id, encoding })}
              />
            ) : (
              <Facts>{options.find((one) => one.id === picture.encoding)?.name}</Facts>
            )}
            {picture.kind === "raw" && picture.moving === null && picture.may_change && (
              <WhiteChoice
                picture={picture}
                onChange={(white, onRefused) => readAs({ id: picture.id, white }, onRefused)}
              />
            )}
          </Card>
        ))}
      </Wall>
      <BringInSheet
        isOpen={bringing}
        onClose={() => setBringing(false)}
        onDone={(picture) => void navigate(`/bench?picture=${picture}`)}
      />
    </Page>
  );
}
