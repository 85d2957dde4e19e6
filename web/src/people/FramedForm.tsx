/** A few fields and what is done with them, set off from the list above. */
import { Form } from "react-aria-components";
import styled from "styled-components";

export const FramedForm = styled(Form)`
  display: grid;
  gap: 12px;
  justify-items: start;
  padding: 14px 16px;
  width: 100%;
  background: ${(p) => p.theme.tokens.glaze};
  border: 1px solid ${(p) => p.theme.tokens.line};
  border-radius: 8px;
  > :has(> input) {
    width: 270px;
  }
  code {
    font-family: ${(p) => p.theme.tokens.numbers};
    overflow-wrap: anywhere;
    user-select: all;
  }
`;
export const ButtonRow = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
`;
