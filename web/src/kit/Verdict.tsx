import { Button } from "react-aria-components";
import styled from "styled-components";

export const Pill = styled(Button)`
  border: 1px solid ${(p) => p.theme.tokens.line};
  background: none;
  color: ${(p) => p.theme.tokens.ink};
  border-radius: 12px;
  padding: 1px 10px;
  min-height: 24px;
  cursor: pointer;
  font-size: ${(p) => p.theme.tokens.size.small};
  display: inline-flex;
  align-items: center;
  gap: 4px;
  &[data-hovered] {
    border-color: ${(p) => p.theme.tokens.faint};
  }
  &[aria-pressed="true"] {
    background: ${(p) => p.theme.tokens.ink};
    border-color: ${(p) => p.theme.tokens.ink};
    color: ${(p) => p.theme.tokens.glaze};
  }
  svg {
    width: 13px;
    height: 13px;
  }
`;

/** Empty: nothing is said. */
export type Said = "" | "yes" | "maybe" | "no";
const choices = [
  ["yes", "Yes"],
  ["maybe", "Maybe"],
  ["no", "No"],
] as const;
export const wordOf = (said: Said) => choices.find(([id]) => id === said)?.[1] ?? "Nothing yet";

/** What one says of something; pressed once more it is taken back. */
export function VerdictPills({ said, onSay }: { said: Said; onSay: (said: Said) => void }) {
  return (
    <>
      {choices.map(([id, word]) => (
        <Pill key={id} aria-pressed={said === id} onPress={() => onSay(said === id ? "" : id)}>
          {word}
        </Pill>
      ))}
    </>
  );
}
