import { useQuery } from "@tanstack/react-query";
import { Bell } from "lucide-react";
import { useState } from "react";
import { DialogTrigger } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { notices as noticesQuery, queue as queueQuery, useClearNotices, useSeen } from "../api/review";
import { ending as endingQuery, fingerprintOf } from "../api/shelf";
import { useMay } from "../api/session";
import type { NoticeAbout } from "../api/types";
import { WordButton } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { Notice } from "../kit/Notice";
import { Menu } from "../kit/Picker";
import { since } from "../kit/since";
import { Panel, Round } from "./panels";

const Ring = styled(Round)`
  position: relative;
  background: none;
  svg {
    width: 17px;
    height: 17px;
  }
  b {
    position: absolute;
    top: -2px;
    right: -3px;
    min-width: 15px;
    padding: 0 4px;
    border-radius: 8px;
    font-size: 10px;
    line-height: 15px;
    background: ${(p) => p.theme.tokens.accent};
    color: ${(p) => p.theme.tokens.onAccent};
  }
`;

const Told = styled.li`
  && {
    grid-template-columns: 30px minmax(0, 1fr);
    gap: 10px;
    align-items: center;
  }
  img {
    border-radius: 50%;
  }
  span {
    display: grid;
  }
`;
const LISTED = 12;
const kindNames: Readonly<Record<NoticeAbout, string>> = {
  proposal: "Proposals",
  decision: "Decisions",
  remark: "Remarks",
};
const kinds = Object.entries(kindNames) as [NoticeAbout, string][];

/** What others did that concerns this person, and what waits for them. */
export function Notices() {
  const { data: notices = [] } = useQuery(noticesQuery);
  const curates = useMay("curate");
  const designs = useMay("design");
  const { data: waiting = [] } = useQuery({ ...queueQuery, enabled: designs });
  const { data: ending } = useQuery({ ...endingQuery, enabled: curates });
  const seen = useSeen();
  const clear = useClearNotices();
  const [isOpen, setOpen] = useState(false);
  const [about, setAbout] = useState<NoticeAbout | "all">("all");
  const shown = about === "all" ? notices : notices.filter((one) => one.about === about);
  const [latest] = shown;
  const fresh = notices.filter((one) => one.is_new);
  const look = () => {
    const [first] = notices;
    if (first && fresh.length > 0) seen.mutate(first.id);
  };
  // Whoever goes where a notice leads has no more use for the list, which would stand over the page.
  const close = () => {
    setOpen(false);
    look();
  };
  const label = fresh.length > 0 ? `Notices, ${String(fresh.length)} new` : "Notices";
  return (
    <DialogTrigger
      isOpen={isOpen}
      onOpenChange={(open) => {
        setOpen(open);
        if (!open) look();
      }}
    >
      <Ring aria-label={label} data-station="notices">
        <Bell aria-hidden />
        {fresh.length > 0 && <b aria-hidden>{fresh.length}</b>}
      </Ring>
      <Menu placement="bottom end">
        <Panel aria-label="Notices">
          <h2>Notices</h2>
          {(ending?.total ?? 0) > 0 && (
            <Link to="/shelf?ending=soon" onClick={close}>
              {ending?.total} may be passed on for 30 days at most, or no longer
            </Link>
          )}
          {waiting.length > 0 && (
            <Link to="/shelf/review" onClick={close}>
              {waiting.length} {waiting.length === 1 ? "version waits" : "versions wait"} for{" "}
              {curates ? "your review" : "review"}
            </Link>
          )}
          {notices.length === 0 && <p>What others propose, publish or say of your entries is told here.</p>}
          {notices.length > 0 && (
            <Choice
              label="Which notices"
              value={about}
              options={[["all", "All"], ...kinds.filter(([id]) => notices.some((one) => one.about === id))]}
              onChange={setAbout}
            />
          )}
          <ul>
            {shown.slice(0, LISTED).map((one) => (
              <Told key={one.id}>
                <img src={fingerprintOf(one.kind, one.entry)} alt="" width={30} height={30} loading="lazy" />
                <span>
                  <Link
                    to={`/shelf/${one.kind}/${String(one.entry)}`}
                    style={{ fontWeight: one.is_new ? 600 : 400 }}
                    onClick={close}
                  >
                    {one.words}
                  </Link>
                  <small>{since(one.at)}</small>
                </span>
              </Told>
            ))}
          </ul>
          {shown.length > LISTED && <small>and {shown.length - LISTED} earlier ones</small>}
          {latest && (
            <span>
              <WordButton
                isDisabled={clear.isPending}
                onPress={() => clear.mutate({ about: about === "all" ? null : about, up_to: latest.id })}
              >
                {about === "all" ? "Clear all of these" : `Clear the ${kindNames[about].toLowerCase()}`}
              </WordButton>
            </span>
          )}
          {clear.error && <Notice>{wordsFor(clear.error)}</Notice>}
        </Panel>
      </Menu>
    </DialogTrigger>
  );
}
