import { GuestVerdicts, useGuestVerdicts } from "../../guests/GuestVerdicts";
import { Block } from "../entry/layout";

/** Verdicts of people without an account; what they wrote stands among the remarks. */
export function GuestsSay({ entry }: { entry: number }) {
  const said = useGuestVerdicts({ entry });
  if (said.length === 0) return null;
  return (
    <Block aria-label="What guests say">
      <h2>Guests</h2>
      <GuestVerdicts of={{ entry }} />
    </Block>
  );
}
