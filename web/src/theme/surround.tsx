import { createContext, useContext, useMemo, type ReactNode } from "react";
import { ThemeProvider } from "styled-components";
import { useKept } from "../browser/kept";
import { surrounds, tokens, type SurroundName } from "./tokens";

interface Choice {
  readonly name: SurroundName;
  readonly choose: (name: SurroundName) => void;
}

const Context = createContext<Choice | null>(null);
const surroundIn = (found: unknown): SurroundName => (found === "light" || found === "dark" ? found : "mid");

/** The theme, with the field around pictures that this person chose last. */
export function SurroundProvider({ children }: { children: ReactNode }) {
  const [name, choose] = useKept("surround", surroundIn);
  const choice = useMemo(() => ({ name, choose }), [name, choose]);
  const theme = useMemo(() => ({ tokens, surround: surrounds[name] }), [name]);
  return (
    <Context.Provider value={choice}>
      <ThemeProvider theme={theme}>{children}</ThemeProvider>
    </Context.Provider>
  );
}

export function useSurround(): Choice {
  const choice = useContext(Context);
  if (!choice) throw new Error("useSurround outside SurroundProvider");
  return choice;
}
