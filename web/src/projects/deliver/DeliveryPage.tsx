import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useCancelJob } from "../../api/jobs";
import { deliveries as deliveriesQuery, delivery as deliveryQuery, useRestartJob } from "../../api/projects";
import { useMay } from "../../api/session";
import { Bar } from "../../jobs/JobLine";
import { Secondary, TakeLink } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { PlainList, WordList } from "../../kit/PlainList";
import { DeliveredFiles } from "./DeliveredFiles";
import { sizeOf, timeLeft, timeOf } from "../../kit/amounts";

const Page = styled.main`
  overflow-y: auto;
  padding: 18px 24px 40px;
  display: grid;
  grid-template-columns: 240px minmax(0, 1fr);
  gap: 32px;
  align-content: start;
  background: ${(p) => p.theme.tokens.paper};
  h1 {
    font-size: ${(p) => p.theme.tokens.size.title};
    font-weight: 600;
  }
  h2 {
    font-weight: 600;
  }
  small,
  p {
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Main = styled.section`
  display: grid;
  gap: 14px;
  align-content: start;
  max-width: 860px;
`;
const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 14px;
  progress {
    max-width: 320px;
  }
`;
const STATES: Readonly<Record<string, string>> = {
  waiting: "waiting for a worker",
  running: "being made",
  done: "done",
  failed: "failed",
  cancelled: "cancelled",
};

/** How long it takes still, by how far it has come since it was asked for. */
function left(made: string, share: number, now: number): string {
  const seconds = timeLeft((now - Date.parse(made)) / 1000, share);
  return seconds === null ? "" : `about ${timeOf(seconds)} still`;
}

/** A past or present delivery with what is in it, beside the others of the project. */
export function DeliveryPage() {
  const params = useParams();
  const [id, number] = [Number(params.id), Number(params.number)];
  const { data, error, dataUpdatedAt } = useQuery(deliveryQuery(id, number));
  const { data: others = [] } = useQuery(deliveriesQuery(id));
  const cancel = useCancelJob();
  const restart = useRestartJob();
  const mayTake = useMay("design");
  const at = `/api/projects/${String(id)}/deliveries/${String(number)}`;
  const going = data?.job?.state === "running" || data?.job?.state === "waiting";
  return (
    <Page>
      <nav aria-label="Deliveries">
        <p>
          <Link to={`/projects/${String(id)}`}>To the project</Link>
        </p>
        <WordList>
          {others.map((one) => (
            <li key={one.number}>
              <Link
                to={`/projects/${String(id)}/deliveries/${String(one.number)}`}
                aria-current={one.number === number ? "page" : undefined}
              >
                Delivery {one.number}
              </Link>
              <small>
                {one.made.slice(0, 10)}, <bdi>{one.by}</bdi>, {STATES[one.job?.state ?? "done"]}
              </small>
            </li>
          ))}
        </WordList>
      </nav>
      <Main>
        {error && <Notice>{wordsFor(error)}</Notice>}
        {data && (
          <>
            <h1>Delivery {data.number}</h1>
            <p>
              By <bdi>{data.by}</bdi>, {data.made.slice(0, 10)}: {data.done} of {data.files} files, {sizeOf(data.bytes)}
            </p>
            {going && (
              <Row role="status">
                <span>{STATES[data.job?.state ?? ""]}</span>
                <Bar value={data.job?.progress ?? 0} max={1} aria-label="How far it is" />
                <span>{left(data.made, data.job?.progress ?? 0, dataUpdatedAt)}</span>
                <Secondary onPress={() => data.job && cancel.mutate(data.job.id)}>Cancel</Secondary>
              </Row>
            )}
            {data.job?.state === "failed" && <Notice>{data.job.problem}</Notice>}
            {data.job?.state === "cancelled" && (
              <Notice tone="word">It was cancelled. What was made until then is kept.</Notice>
            )}
            {data.job?.may_restart && (
              <span>
                <Secondary isPending={restart.isPending} onPress={() => data.job && restart.mutate(data.job.id)}>
                  Go on with what is not done
                </Secondary>
              </span>
            )}
            {(cancel.error ?? restart.error) && <Notice>{wordsFor(cancel.error ?? restart.error)}</Notice>}
            {data.done > 0 && mayTake && (
              <span>
                {going ? (
                  <a href={`${at}/all.zip`} download>
                    What is made of it, as one zip
                  </a>
                ) : (
                  <TakeLink href={`${at}/all.zip`} download>
                    Take all of it, as one zip
                  </TakeLink>
                )}
              </span>
            )}
            <span>
              <a href={`${at}/document.json`} download>
                What it was made of: names, order, trims, notes and ranges as they stood (JSON)
              </a>
            </span>
            {data.left_out.length > 0 && (
              <>
                <h2>Left out</h2>
                <PlainList aria-label="Left out">
                  {data.left_out.map((one) => (
                    <li key={one}>{one}</li>
                  ))}
                </PlainList>
              </>
            )}
            <DeliveredFiles at={at} delivery={data} project={id} mayTake={mayTake} />
          </>
        )}
      </Main>
    </Page>
  );
}
