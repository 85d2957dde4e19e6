import { useQuery } from "@tanstack/react-query";
import { Bell } from "lucide-react";
import { DialogTrigger } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { notices as noticesQuery, queue as queueQuery, useSeen } from "../api/review";
import { ending as endingQuery } from "../api/shelf";
import { useMay } from "../api/session";
import { Menu } from "../kit/Picker";
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

/** What others did that concerns this person, and what waits for them. */
export function Notices() {
  const { data: notices = [] } = useQuery(noticesQuery);
  const curates = useMay("curate");
  const designs = useMay("design");
  const { data: waiting = [] } = useQuery({ ...queueQuery, enabled: designs });
  const { data: ending } = useQuery({ ...endingQuery, enabled: curates });
  const seen = useSeen();
  const fresh = notices.filter((one) => one.is_new);
  const label = fresh.length > 0 ? `Notices, ${String(fresh.length)} new` : "Notices";
  return (
    <DialogTrigger
      onOpenChange={(open) => {
        const [first] = notices;
        if (!open && first && fresh.length > 0) seen.mutate(first.id);
      }}
    >
      <Ring aria-label={label}>
        <Bell aria-hidden />
        {fresh.length > 0 && <b aria-hidden>{fresh.length}</b>}
      </Ring>
      <Menu placement="bottom end">
        <Panel aria-label="Notices">
          <h2>Notices</h2>
          {(ending?.total ?? 0) > 0 && (
            <Link to="/shelf?ending=soon">{ending?.total} may be passed on for 30 days at most, or no longer</Link>
          )}
          {waiting.length > 0 && (
            <Link to="/shelf/review">
              {waiting.length} {waiting.length === 1 ? "version waits" : "versions wait"} for{" "}
              {curates ? "your review" : "review"}
            </Link>
          )}
          {notices.length === 0 && <p>What others propose, publish or say of your entries is told here.</p>}
          <ul>
            {notices.slice(0, 12).map((one) => (
              <li key={one.id}>
                <Link to={`/shelf/${one.kind}/${String(one.entry)}`} style={{ fontWeight: one.is_new ? 600 : 400 }}>
                  {one.words}
                </Link>
                <small>{one.at.slice(0, 16).replace("T", " ")}</small>
              </li>
            ))}
          </ul>
        </Panel>
      </Menu>
    </DialogTrigger>
  );
}
