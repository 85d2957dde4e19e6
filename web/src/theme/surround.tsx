import { createContext, useContext, useMemo, useState, type ReactNode } from "react";
import { ThemeProvider } from "styled-components";
import { surrounds, tokens, type SurroundName } from "./tokens";

interface Choice {
  readonly name: SurroundName;
  readonly choose: (name: SurroundName) => void;
}

const Context = createContext<Choice | null>(null);
const KEY = "saucer.surround";

function remembered(): SurroundName {
  const kept = localStorage.getItem(KEY);
  return kept === "light" || kept === "dark" ? kept : "mid";
}

/** The theme, with the field around pictures that this person chose last. */
export function SurroundProvider({ children }: { children: ReactNode }) {
  const [name, setName] = useState<SurroundName>(remembered);
  const choice = useMemo(
    () => ({
      name,
      choose(next: SurroundName) {
        localStorage.setItem(KEY, next);
        setName(next);
      },
    }),
    [name],
  );
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
