/** What those see who are not in yet: a plate with a few fields on it. */
import type { ReactNode } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { Mark } from "./Mark";

const Page = styled.main`
  min-height: 100vh;
  display: grid;
  place-items: center;
  overflow: clip;
  background: ${(p) => p.theme.tokens.paper};
`;
const Plate = styled.div<{ $size: number }>`
  width: ${(p) => p.$size}px;
  height: ${(p) => p.$size}px;
  border-radius: 50%;
  background: ${(p) => p.theme.tokens.glaze};
  border: 1px solid ${(p) => p.theme.tokens.line};
  display: grid;
  place-items: center;
  position: relative;
  &::before {
    content: "";
    position: absolute;
    inset: 26px;
    border-radius: 50%;
    border: 1px solid ${(p) => p.theme.tokens.line};
    pointer-events: none;
  }
`;
const Fields = styled(Form)<{ $width: number }>`
  width: ${(p) => p.$width}px;
  display: grid;
  gap: 12px;
  position: relative;
  h1 {
    display: flex;
    align-items: center;
    gap: 9px;
    justify-content: center;
    font-size: 22px;
    font-weight: 600;
    letter-spacing: -0.02em;
    margin-bottom: 6px;
  }
  > p {
    text-align: center;
    color: ${(p) => p.theme.tokens.soft};
    overflow-wrap: anywhere;
  }
`;
/** Other ways to go on, below the one that most take. */
export const Otherwise = styled.div`
  display: grid;
  justify-items: center;
  gap: 8px;
`;

interface Props {
  readonly onSubmit: () => void;
  readonly wide?: boolean;
  readonly title?: string;
  readonly children: ReactNode;
}

export function OnPlate({ onSubmit, wide = false, title = "Saucer", children }: Props) {
  return (
    <Page>
      <Plate $size={wide ? 640 : 500}>
        <Fields
          $width={wide ? 320 : 250}
          onSubmit={(event) => {
            event.preventDefault();
            onSubmit();
          }}
        >
          <h1>
            <Mark size={25} />
            {title}
          </h1>
          {children}
        </Fields>
      </Plate>
    </Page>
  );
}
