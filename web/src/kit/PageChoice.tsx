import { useSurround } from "../theme/surround";
import { Choice } from "./Choice";

/** The page by day or by night. */
export function PageChoice() {
  const { page, choosePage } = useSurround();
  return (
    <Choice
      titled
      label="Page"
      value={page}
      options={[
        ["system", "As the system"],
        ["light", "Light"],
        ["dark", "Dark"],
      ]}
      onChange={choosePage}
    />
  );
}
