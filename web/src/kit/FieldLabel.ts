import { Label } from "react-aria-components";
import styled from "styled-components";

/** Above a field, in small letters. */
export const FieldLabel = styled(Label)`
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;
