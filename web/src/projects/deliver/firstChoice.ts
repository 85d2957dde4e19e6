/** What the sheet of a delivery begins with. */
import type { DeliveryChoice } from "../../api/projects";
import type { Project } from "../../api/types";

/** What was asked for last in this project, of other shots; the first time what the project holds, with a contact sheet. */
export function firstChoice(project: Pick<Project, "shots">, last: DeliveryChoice | undefined): DeliveryChoice {
  if (last) return { ...last, shots: [] };
  const moving = project.shots.filter((one) => one.moving !== null).length;
  return {
    stills: moving < project.shots.length || moving === 0 ? "png" : "",
    clips: moving > 0 ? "h264" : "",
    template: "{scene}_{shot}",
    sheet: true,
  };
}

/** Do both ask for the same, of whatever shots? */
export function isSame(one: DeliveryChoice, other: DeliveryChoice): boolean {
  const told = (choice: DeliveryChoice) =>
    JSON.stringify(
      Object.entries({ ...choice, shots: "" })
        .filter(([, value]) => value !== "" && value !== false && value !== 0)
        .sort(([a], [b]) => a.localeCompare(b)),
    );
  return told(one) === told(other);
}
