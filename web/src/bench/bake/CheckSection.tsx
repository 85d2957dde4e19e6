import styled from "styled-components";
import type { Picture } from "../../api/types";
import { Choice } from "../../kit/Choice";
import { CheckSide } from "./CheckSide";
import { measuredChoice } from "./choices";
import { Row } from "./layout";
import type { BakeChoices } from "./useBakeChoices";
import type { Survey, Surveys } from "./useSurveys";

const Files = styled.dl`
  margin: 0;
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 12px;
  font-size: ${(p) => p.theme.tokens.size.small};
  dt {
    overflow-wrap: anywhere;
  }
  dd {
    margin: 0;
    font-family: ${(p) => p.theme.tokens.numbers};
    color: ${(p) => p.theme.tokens.soft};
  }
`;

const megabytes = (bytes: number) =>
  bytes < 100_000 ? `${(bytes / 1000).toFixed(1)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
const shortName = ({ format, form }: Survey) => (form?.suffixes[0] === ".png" ? format.format : `.${format.format}`);

/** The baked picture beside the exact one in one format, and what all the files come to. */
export function CheckSection({
  chosen,
  surveys,
  picture,
}: {
  chosen: BakeChoices;
  surveys: Surveys;
  picture: Picture | undefined;
}) {
  const { watched } = surveys;
  return (
    <>
      <Row>
        <h3>The check</h3>
        {surveys.all.length > 1 && (
          <Choice
            label="Format that is checked"
            value={watched.format.format}
            options={surveys.all.map((one) => [one.format.format, shortName(one)] as const)}
            onChange={surveys.watch}
          />
        )}
      </Row>
      <CheckSide
        look={chosen.look}
        choice={measuredChoice(chosen.choices)}
        format={watched.format}
        found={watched.found}
        measured={surveys.measured}
        picture={picture}
        problem={watched.problem}
      />
      <Files aria-label="Files">
        {surveys.all.map(({ format, form, about, problem }) => [
          <dt key={`${format.format} name`}>
            {form?.name}
            {form?.depths.length ? `, ${format.depth || form.depths[0]} bits` : ""}
          </dt>,
          <dd key={format.format}>
            {problem !== null ? "cannot hold it" : about ? `about ${megabytes(about)}` : "…"}
          </dd>,
        ])}
      </Files>
    </>
  );
}
