import { useQuery } from "@tanstack/react-query";
import { familyOf } from "../../api/looks";
import type { Picture } from "../../api/types";
import { withMemberIn } from "../../look/family";
import { Small } from "./layout";

interface Props {
  readonly look: number;
  /** The newest that was saved: the one that is printed. */
  readonly version: number;
  /** Which of its family is seen; empty for the recipe. */
  readonly member: string;
  readonly picture: Picture | undefined;
}

/** The way to a look's printed sheet: of the one of its family that is seen, where the version that is printed has it. */
export function SheetToPrint({ look, version, member, picture }: Props) {
  const { data: family, isError } = useQuery({ ...familyOf(look, version), enabled: member !== "" });
  const isKnown = member === "" || family !== undefined || isError;
  const isThere = (family ?? []).some((one) => one.name === member);
  if (!isKnown) return null;
  const search = withMemberIn(
    new URLSearchParams(picture ? { picture: String(picture.id) } : {}),
    isThere ? member : "",
  );
  return (
    <>
      <a href={`/api/looks/${String(look)}/sheet.pdf?${search.toString()}`} target="_blank" rel="noreferrer">
        A sheet to print
      </a>
      {family && !isThere && (
        <Small>
          Version {version} has no {member} yet: the sheet shows its recipe until a version with {member} is saved.
        </Small>
      )}
    </>
  );
}
