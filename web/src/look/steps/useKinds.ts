/** What the server says about kinds of steps. */
import { useQuery } from "@tanstack/react-query";
import { useCallback } from "react";
import { stepKinds } from "../../api/looks";

/** Does no LUT hold a step of this kind? */
export function useSpatial(): (kind: string) => boolean {
  const { data } = useQuery(stepKinds);
  return useCallback((kind: string) => data?.some((one) => one.kind === kind && one.spatial) ?? false, [data]);
}
