import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { fetchVersion, history as historyQuery, useBranch } from "../../api/looks";
import { useMay } from "../../api/session";
import type { PastVersion } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Sheet } from "../../kit/Sheet";
import { withIds } from "../../look/arrange";
import { useBench, useBenchPart, useSaving } from "../../look/useBench";
import { Propose } from "../saving/Propose";
import { Changes } from "./Changes";
import { oneLine } from "../../kit/oneLine";
import { withoutMarks } from "../../kit/PlainList";

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  min-height: 320px;
  max-height: min(620px, calc(100vh - 160px));
  > section {
    overflow-y: auto;
    padding: 14px 22px 20px;
  }
  > section + section {
    border-left: 1px solid ${(p) => p.theme.tokens.line};
  }
  h3 {
    font-weight: 600;
    margin-bottom: 8px;
  }
`;
const Version = styled.article`
  padding: 10px 0;
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  header {
    display: flex;
    gap: 10px;
    align-items: baseline;
  }
  header b {
    font-weight: 600;
  }
  header span {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
  > p {
    margin-top: 2px;
    overflow-wrap: anywhere;
  }
  footer {
    display: flex;
    gap: 16px;
    margin-top: 6px;
  }
`;
const Past = styled.ol`
  ${withoutMarks}
  button {
    display: block;
    width: 100%;
    border: 0;
    border-radius: 5px;
    background: none;
    padding: 4px 8px;
    text-align: left;
    cursor: pointer;
    ${oneLine}
  }
  button:hover {
    background: ${(p) => p.theme.tokens.hush};
  }
  [aria-current] {
    font-weight: 600;
    background: ${(p) => p.theme.tokens.accentWash};
  }
  [data-future] {
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Quiet = styled.p`
  color: ${(p) => p.theme.tokens.soft};
`;

const when = (text: string) =>
  new Date(text).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
  });

/** Versions with what each changed, and the changes since the page knows this look, each a place to go back to. */
export function HistorySheet({ onClose }: { onClose: () => void }) {
  const { store, view, id, mayEdit } = useBench();
  const { entry } = useSaving();
  const mayDesign = useMay("design");
  const look = useBenchPart((state) => state.look);
  const past = useBenchPart((state) => state.past);
  const future = useBenchPart((state) => state.future);
  const { data: versions, error } = useQuery(historyQuery(id));
  const branch = useBranch(id);
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string | null>(null);

  async function goBackTo(version: PastVersion) {
    try {
      const content = await fetchVersion(id, version.number);
      store.replace(`Go back to version ${version.number}`, withIds(content));
      onClose();
    } catch (failed) {
      setProblem(wordsFor(failed));
    }
  }

  async function branchFrom(version: PastVersion) {
    const made = await branch.mutateAsync(version.number);
    onClose();
    await navigate(`/bench/${made.id}`);
  }

  function compareWith(version: PastVersion) {
    view.set({ against: `version-${version.number}`, mode: view.get().mode === "single" ? "wipe" : view.get().mode });
    onClose();
  }

  const said = problem ?? (error ? wordsFor(error) : branch.error ? wordsFor(branch.error) : null);
  return (
    <Sheet title={`History of ${look.name || "this look"}`} isOpen onClose={onClose} width="880px">
      <Columns>
        <section aria-label="Versions">
          <h3>Versions</h3>
          {entry.branched_from && <Quiet>Branched from {entry.branched_from}.</Quiet>}
          {said && <Notice>{said}</Notice>}
          {versions && <Changes title="Since then, in the draft" before={versions[0]?.number ?? null} />}
          {!versions && !said && <Quiet>Reading the versions…</Quiet>}
          {versions?.length === 0 && <Quiet>No version yet. Save version keeps the look as it is now, for good.</Quiet>}
          {versions?.map((one, index) => (
            <Version key={one.number} aria-label={`Version ${one.number}`}>
              <header>
                <b>Version {one.number}</b>
                <span>
                  <bdi>{one.made_by}</bdi>, {when(one.made)}
                </span>
              </header>
              {one.note && <p>{one.note}</p>}
              <Changes lines={one.changes} />
              <footer>
                <WordButton onPress={() => compareWith(one)}>Compare</WordButton>
                {mayEdit && index === 0 && <Propose look={id} quiet />}
                {mayEdit && <WordButton onPress={() => void goBackTo(one)}>Go back to it</WordButton>}
                {mayDesign && (
                  <WordButton onPress={() => void branchFrom(one).catch(() => undefined)}>
                    Branch a look from it
                  </WordButton>
                )}
              </footer>
            </Version>
          ))}
        </section>
        <section aria-label="Changes">
          <h3>Changes</h3>
          <Past>
            {[...future].map((change, index) => (
              <li key={`future ${index}`}>
                <button
                  type="button"
                  data-future
                  onClick={() => store.dispatch({ type: "rewind", by: -(future.length - index) })}
                >
                  {change.name}
                </button>
              </li>
            ))}
            {[...past].reverse().map((change, index) => (
              <li key={`past ${index}`}>
                <button
                  type="button"
                  aria-current={index === 0 ? "step" : undefined}
                  onClick={() => store.dispatch({ type: "rewind", by: index })}
                >
                  {change.name}
                </button>
              </li>
            ))}
            <li>
              <button
                type="button"
                aria-current={past.length === 0 ? "step" : undefined}
                onClick={() => store.dispatch({ type: "rewind", by: past.length })}
              >
                As it was opened first
              </button>
            </li>
          </Past>
        </section>
      </Columns>
    </Sheet>
  );
}
