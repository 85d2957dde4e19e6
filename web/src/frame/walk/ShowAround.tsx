import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useSyncExternalStore } from "react";
import { useLocation } from "react-router";
import { useDescribeOwn } from "../../api/own";
import { session } from "../../api/session";
import { asked } from "./asked";
import { stationsFor } from "./stations";

const Walk = lazy(() => import("./Walk").then((found) => ({ default: found.Walk })));
/** Here something else is asked first. */
const BUSY = ["/studio/begin", "/you"];

/** Shows somebody new around, once, and whoever asks for it. */
export function ShowAround() {
  const { data } = useQuery(session);
  const isAsked = useSyncExternalStore(asked.subscribe, asked.get);
  const { pathname } = useLocation();
  const describe = useDescribeOwn();
  // Where it could not be kept that they have seen it, they are asked again the next time, not at once.
  const isNew = data?.is_new === true && describe.isIdle;
  if (!data?.person || !(isAsked || (isNew && !BUSY.includes(pathname)))) return null;
  return (
    <Suspense fallback={null}>
      <Walk
        stations={stationsFor(data.may ?? [])}
        onEnd={() => {
          asked.set(false);
          if (data.is_new) describe.mutate({ is_new: false });
        }}
      />
    </Suspense>
  );
}
