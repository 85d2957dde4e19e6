import { useCallback, useState, type ReactNode } from "react";
import styled from "styled-components";
import type { Entry, Kind, Shot } from "../../api/types";
import { EntryChooser } from "../../entries/EntryChooser";
import { CardsOf } from "../cards/CardPicture";
import { ThroughEntry } from "../cards/ThroughEntry";
import { canBePut } from "./parts";

const Side = styled.div`
  position: relative;
  min-width: 0;
  min-height: 0;
`;
const Under = styled.div`
  height: 100%;
`;
const Panel = styled.div`
  position: absolute;
  inset: 0;
  z-index: 4;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  border-left: 1px solid ${(p) => p.theme.tokens.line};
  h2 {
    padding: 12px 12px 2px;
    font-size: ${(p) => p.theme.tokens.size.text};
    font-weight: 600;
    overflow-wrap: anywhere;
  }
`;

/** What is looked for, where it would lie, and what becomes of it. */
export interface Choosing {
  readonly label: string;
  readonly kinds: readonly Kind[];
  /** What lies there now. */
  readonly except?: number;
  /** Beside what lies there, not in its place. */
  readonly stack: boolean;
  readonly onTry: (entry: Entry | null) => void;
  readonly onTake: (entry: Entry) => void;
}

interface Props {
  readonly project: number;
  readonly shot: Shot;
  readonly choosing: Choosing;
  readonly onClose: () => void;
}

/** A column, in the place of which something is chosen for it: the picture beside it stays in sight, and shows what is tried. */
export function WithChooser({
  choosing,
  children,
  ...rest
}: Omit<Props, "choosing"> & { readonly choosing: Choosing | null; readonly children: ReactNode }) {
  return (
    <Side>
      <Under inert={choosing !== null}>{children}</Under>
      {choosing && <PartChooser choosing={choosing} {...rest} />}
    </Side>
  );
}

/** Closed, the keys are where they were. */
function PartChooser({ project, shot, choosing, onClose }: Props) {
  const [opener] = useState(() => document.activeElement);
  const close = useCallback(() => {
    onClose();
    requestAnimationFrame(() => {
      if (opener instanceof HTMLElement && opener.isConnected) opener.focus();
    });
  }, [onClose, opener]);
  const { label, kinds, except, stack, onTry, onTake } = choosing;
  return (
    <Panel data-testid="part-chooser">
      <h2>{label}</h2>
      <CardsOf project={project}>
        <EntryChooser
          label={label}
          kinds={kinds}
          picture={undefined}
          shownOn={(entry) => <ThroughEntry shot={shot} entry={entry.id} stack={stack} />}
          {...(except === undefined ? {} : { except })}
          only={canBePut}
          onTry={onTry}
          onChoose={(entry) => {
            onTake(entry);
            close();
          }}
          onClose={close}
        />
      </CardsOf>
    </Panel>
  );
}
