import { useQuery } from "@tanstack/react-query";
import { createContext, useContext, useState, type ReactNode } from "react";
import { DialogTrigger } from "react-aria-components";
import { Link, NavLink } from "react-router";
import styled from "styled-components";
import { isActive, jobs as jobsQuery } from "../api/jobs";
import { session, useSignOut } from "../api/session";
import type { Job } from "../api/types";
import { kindOfJob } from "../jobs/kinds";
import { Secondary, WordButton } from "../kit/Button";
import { Menu } from "../kit/Picker";
import { initialsOf } from "../kit/initials";
import { Mark } from "../kit/Mark";
import { WordList } from "../kit/PlainList";
import { Notices } from "./Notices";
import { Panel, Round } from "./panels";
import { Passing } from "./Passing";
import { asked } from "./walk/asked";
import { ShowAround } from "./walk/ShowAround";
import { shareOf, Uploads, useAskBeforeLeaving, useUploads } from "./Uploads";
import { Unreadable } from "./Unreadable";
import { PageChoice } from "../kit/PageChoice";

const Root = styled.header`
  display: flex;
  align-items: center;
  gap: 26px;
  height: ${(p) => p.theme.tokens.top};
  padding: 0 18px;
  background: ${(p) => p.theme.tokens.glaze};
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
`;
const Word = styled(NavLink)`
  display: flex;
  align-items: center;
  align-self: stretch;
  gap: 8px;
  font-weight: 600;
  font-size: 17px;
  letter-spacing: -0.02em;
  color: inherit;
  border-block: 2px solid transparent;
  &.active {
    border-bottom-color: ${(p) => p.theme.tokens.accent};
  }
`;
const Nav = styled.nav`
  display: flex;
  gap: 20px;
  align-self: stretch;
  a {
    display: flex;
    align-items: center;
    font-weight: 500;
    color: ${(p) => p.theme.tokens.soft};
    border-bottom: 2px solid transparent;
    border-top: 2px solid transparent;
  }
  a:hover {
    color: ${(p) => p.theme.tokens.ink};
  }
  a.active {
    color: ${(p) => p.theme.tokens.ink};
    font-weight: 600;
    border-bottom-color: ${(p) => p.theme.tokens.accent};
  }
`;
const Right = styled.div`
  margin-left: auto;
  display: flex;
  align-items: center;
  gap: 14px;
`;
const Slot = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
`;
const Ring = styled(Round)`
  background: none;
`;
const SlotContext = createContext<HTMLElement | null>(null);

/** Where a page puts its own actions into the top bar. */
export const useTopSlot = () => useContext(SlotContext);

const states: Record<Job["state"], string> = {
  waiting: "waiting",
  running: "running",
  done: "done",
  failed: "failed",
  cancelled: "cancelled",
};

function Jobs() {
  const { data: jobs = [] } = useQuery(jobsQuery);
  const running = jobs.filter(isActive);
  const sent = useUploads();
  useAskBeforeLeaving();
  const shares = [...running.map((job) => job.progress), ...(sent.length > 0 ? [shareOf(sent)] : [])];
  const share = shares.length > 0 ? shares.reduce((sum, one) => sum + one, 0) / shares.length : 0;
  const told = [
    sent.length > 0 ? `${String(sent.length)} on the way to the server` : "",
    running.length > 0 ? `${String(running.length)} jobs running` : "",
  ].filter(Boolean);
  const around = 2 * Math.PI * 8;
  return (
    <DialogTrigger>
      <Ring aria-label={told.join(", ") || "Jobs"}>
        <svg width={20} height={20} viewBox="0 0 20 20" fill="none" strokeWidth={2.5} aria-hidden>
          <circle cx={10} cy={10} r={8} stroke="currentColor" strokeOpacity={0.18} />
          {shares.length > 0 && (
            <circle
              cx={10}
              cy={10}
              r={8}
              stroke="currentColor"
              strokeDasharray={`${Math.max(0.08, share) * around} ${around}`}
              transform="rotate(-90 10 10)"
            />
          )}
        </svg>
      </Ring>
      <Menu placement="bottom end">
        <Panel aria-label="Jobs">
          <h2>Jobs</h2>
          <Uploads />
          {jobs.length === 0 && sent.length === 0 && <p>Bakes and graded pictures appear here while they are made.</p>}
          <ul>
            {jobs.slice(0, 8).map((job) => (
              <li key={job.id}>
                <span>
                  {kindOfJob(job.kind)}: {job.file_name || states[job.state]}
                </span>
                <small>
                  {job.state === "failed" ? job.problem : states[job.state]}
                  {job.download && (
                    <>
                      {" "}
                      ·{" "}
                      <a href={job.download} download>
                        download
                      </a>
                    </>
                  )}
                  {job.state === "done" && job.page && (
                    <>
                      {" "}
                      · <Link to={job.page}>show</Link>
                    </>
                  )}
                </small>
              </li>
            ))}
          </ul>
        </Panel>
      </Menu>
    </DialogTrigger>
  );
}

function PersonMenu() {
  const { data } = useQuery(session);
  const signOut = useSignOut();
  const person = data?.person;
  const may = data?.may ?? [];
  if (!person) return null;
  const initials = initialsOf(person.name);
  return (
    <DialogTrigger>
      <Round aria-label={`${initials}: signed in as ${person.name}`}>{initials}</Round>
      <Menu placement="bottom end">
        <Panel aria-label="Signed in">
          {({ close }) => (
            <>
              <div>
                <h2>{person.name}</h2>
                <p>
                  <bdi>{person.username}</bdi>, {person.role}
                </p>
              </div>
              <PageChoice />
              <WordList>
                <li>
                  <Link to="/you" onClick={close}>
                    Your own page
                  </Link>
                </li>
                {may.includes("administer") && (
                  <li>
                    <Link to="/studio/people" onClick={close}>
                      People and the studio
                    </Link>
                  </li>
                )}
                {may.includes("curate") && !may.includes("administer") && (
                  <li>
                    <Link to="/studio/activity" onClick={close}>
                      Activity of the studio
                    </Link>
                  </li>
                )}
              </WordList>
              <WordButton
                onPress={() => {
                  close();
                  asked.set(true);
                }}
              >
                Show me around
              </WordButton>
              <Secondary onPress={() => signOut.mutate()}>Sign out</Secondary>
            </>
          )}
        </Panel>
      </Menu>
    </DialogTrigger>
  );
}

/** tools: what stands beside what is told to the person */
export function TopBar({ tools, children }: { tools?: ReactNode; children: ReactNode }) {
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  return (
    <SlotContext.Provider value={slot}>
      <Root>
        <Word to="/start" aria-label="Saucer: to the start page" data-station="start">
          <Mark />
          Saucer
        </Word>
        <Nav aria-label="Main">
          <NavLink to="/bench" data-station="bench">
            Bench
          </NavLink>
          <NavLink to="/shelf" data-station="shelf">
            Shelf
          </NavLink>
          <NavLink to="/projects" data-station="projects">
            Projects
          </NavLink>
          <NavLink to="/pictures" data-station="pictures">
            Pictures
          </NavLink>
        </Nav>
        <Right>
          <Slot ref={setSlot} />
          {tools}
          <Unreadable />
          <Notices />
          <Jobs />
          <PersonMenu />
        </Right>
      </Root>
      {children}
      <Passing />
      <ShowAround />
    </SlotContext.Provider>
  );
}
