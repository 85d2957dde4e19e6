import { useQuery } from "@tanstack/react-query";
import { Navigate } from "react-router";
import { beginning as beginningQuery } from "../api/beginning";
import { queue as queueQuery } from "../api/review";
import { session } from "../api/session";
import { start as startQuery } from "../api/start";
import { lastPlace, placeOf } from "../browser/place";

/** Where somebody begins: the first admin where the studio does, viewers at the Shelf, curators at what waits for them, who designs at their own last place; else at the start page. */
export function Landing() {
  const { data: here } = useQuery(session);
  const person = here?.person;
  const curates = here?.may?.includes("curate") ?? false;
  const designs = here?.may?.includes("design") ?? false;
  const administers = here?.may?.includes("administer") ?? false;
  const place = person && designs ? lastPlace(person.username) : null;
  const { data: queue, isError: noQueue } = useQuery({ ...queueQuery, enabled: curates });
  const asks = designs && place === null;
  const { data: begins, isError: noBeginning } = useQuery({ ...beginningQuery, enabled: administers });
  const { data: start, isError: noStart } = useQuery({ ...startQuery, enabled: asks });
  if (!person) return null;
  if (!designs) return <Navigate to="/shelf" replace />;
  if (administers && !begins && !noBeginning) return null;
  if (begins?.waits) return <Navigate to="/studio/begin" replace />;
  if (curates && !queue && !noQueue) return null;
  if (queue?.some((one) => one.next.includes("published"))) return <Navigate to="/shelf/review" replace />;
  if (place) return <Navigate to={placeOf(place)} replace />;
  if (!start && !noStart) return null;
  const [last] = start?.looks ?? [];
  return <Navigate to={last ? `/bench/${String(last.id)}` : "/start"} replace />;
}
