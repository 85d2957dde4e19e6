import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { bakes as bakesQuery } from "../../api/bakes";
import { encodings as encodingsQuery } from "../../api/encodings";
import { useMay } from "../../api/session";
import type { Bake, LookOut, Picture } from "../../api/types";
import { useActions } from "../../browser/actions";
import { Primary } from "../../kit/Button";
import { withMemberIn } from "../../look/family";
import { Files } from "./Files";
import { Block, Facts, Small } from "./layout";
import { withoutMarks } from "../../kit/PlainList";
import { SheetToPrint } from "./SheetToPrint";

const Bakes = styled.ol`
  ${withoutMarks}
  display: grid;
  gap: 14px;
  h3 {
    font-weight: 500;
  }
  li {
    display: grid;
    gap: 5px;
  }
`;

function OneBake({ bake }: { bake: Bake }) {
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const nameOf = (key: string) => encodings.find((one) => one.id === key)?.name ?? key;
  return (
    <li>
      <h3>
        {[bake.choice.member, bake.part || (bake.choice.member ? "" : "The whole look")].filter(Boolean).join(", ")},
        version {bake.version}
      </h3>
      <Small>
        {nameOf(bake.expects)} to {nameOf(bake.gives)}. {bake.health === "fine" ? "Healthy" : bake.health_words}
        {bake.left_out.length > 0 && `. Left out: ${bake.left_out.join(", ")}`}
      </Small>
      <Files lut={bake.lut} files={bake.files} />
    </li>
  );
}

interface Props {
  readonly look: LookOut;
  /** Which of its family is seen; empty for the recipe. */
  readonly member: string;
  readonly picture: Picture | undefined;
}

/** A look on the Shelf: its way to the Bench, its latest version, and everything that was baked from it. */
export function LookFacts({ look, member, picture }: Props) {
  const navigate = useNavigate();
  const mayDesign = useMay("design");
  const { data: bakes = [] } = useQuery(bakesQuery(look.id));
  const latest = look.versions[0];
  const words = mayDesign ? "Open on the Bench" : "Look at it on the Bench";
  const open = () =>
    void navigate({
      pathname: `/bench/${String(look.id)}`,
      search: withMemberIn(new URLSearchParams(), member).toString(),
    });
  useActions([{ name: words, run: open }]);
  return (
    <>
      <Block aria-label="Look">
        <h2>The look</h2>
        <Facts>
          <dt>Version</dt>
          <dd>{latest ? `${String(latest.number)}${latest.note && `, ${latest.note}`}` : "None saved yet"}</dd>
          {look.branched_from && (
            <>
              <dt>Came from</dt>
              <dd>{look.branched_from}</dd>
            </>
          )}
        </Facts>
        <Primary onPress={open}>{words}</Primary>
        {latest && <SheetToPrint look={look.id} version={latest.number} member={member} picture={picture} />}
        {mayDesign && (
          <a href={`/api/looks/${String(look.id)}/look.json`} download>
            Download the look file
          </a>
        )}
      </Block>
      <Block aria-label="Bakes">
        <h2>Baked from it</h2>
        {bakes.length === 0 && (
          <Small>Nothing yet. Bakes made on the Bench are kept here, with the version they came from.</Small>
        )}
        <Bakes>
          {bakes.map((bake) => (
            <OneBake key={bake.lut} bake={bake} />
          ))}
        </Bakes>
      </Block>
    </>
  );
}
