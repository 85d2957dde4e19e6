/** A look of one's own that begins as the one that may only be looked at: as it is seen, tries included. */
import { useNavigate, useSearchParams } from "react-router";
import { useBranch, useMakeLook } from "../../api/looks";
import { useBench, useSaving } from "../../look/useBench";

const LONGEST = 110;

export function useOwnCopy(): { make: () => void; isPending: boolean; error: Error | null } {
  const { id, store } = useBench();
  const { entry } = useSaving();
  const branch = useBranch(id);
  const copy = useMakeLook();
  const navigate = useNavigate();
  const [search] = useSearchParams();

  async function begin() {
    const { whole, past } = store.get();
    const [latest] = entry.versions;
    // A version is where it comes from, and is named as such; what stands beside a version has none.
    const isVersion = latest !== undefined && !entry.changed_since_version && past.length === 0;
    const made = isVersion
      ? await branch.mutateAsync(latest.number)
      : await copy.mutateAsync({ ...whole, name: `${(whole.name ?? "").slice(0, LONGEST)}, mine` });
    await navigate({ pathname: `/bench/${String(made.id)}`, search: search.toString() });
  }

  return {
    make: () => void begin().catch(() => undefined),
    isPending: branch.isPending || copy.isPending,
    error: branch.error ?? copy.error,
  };
}
