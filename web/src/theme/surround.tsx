import { createContext, useContext, useMemo, useSyncExternalStore, type ReactNode } from "react";
import { ThemeProvider } from "styled-components";
import { useKept } from "../browser/kept";
import { isDark, watchDark } from "../browser/screen";
import { surrounds, tokensOf, type PageName, type SurroundName } from "./tokens";

/** system: as the person's system asks for. */
export type PageChoice = PageName | "system";

interface Choice {
  readonly name: SurroundName;
  readonly choose: (name: SurroundName) => void;
  readonly page: PageChoice;
  readonly choosePage: (page: PageChoice) => void;
}

const Context = createContext<Choice | null>(null);
const surroundIn = (found: unknown): SurroundName | null =>
  found === "light" || found === "mid" || found === "dark" ? found : null;
const pageIn = (found: unknown): PageChoice => (found === "light" || found === "dark" ? found : "system");

/** The theme: the page by day or by night, and the field around pictures, as this person chose them last. */
export function SurroundProvider({ children }: { children: ReactNode }) {
  const [chosen, choose] = useKept("surround", surroundIn);
  const [page, choosePage] = useKept("page", pageIn);
  const asksForDark = useSyncExternalStore(watchDark, isDark);
  const shown: PageName = page === "system" ? (asksForDark ? "dark" : "light") : page;
  // Who has chosen no surround is not dazzled by one beside a dark page.
  const name = chosen ?? (shown === "dark" ? "dark" : "mid");
  const choice = useMemo(() => ({ name, choose, page, choosePage }), [name, choose, page, choosePage]);
  const theme = useMemo(() => ({ page: shown, tokens: tokensOf[shown], surround: surrounds[name] }), [shown, name]);
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
