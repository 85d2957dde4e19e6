/** A remedy that somebody brought along from the report of where a look breaks: tried as soon as the look is open, undone as any change. */
import { useEffect } from "react";
import { useLocation, useNavigate } from "react-router";
import { withRemedy, type CarriedRemedy } from "../../look/remedies";
import { useBench } from "../../look/useBench";

export function useCarried(onSaid: (words: string) => void): void {
  const { store, mayEdit } = useBench();
  const { pathname, search, ...place } = useLocation();
  const go = useNavigate();
  const remedy = (place.state as { remedy?: CarriedRemedy } | null)?.remedy;
  useEffect(() => {
    if (!remedy || !mayEdit) return undefined;
    // Once the page is whole: what saves the look begins to watch it after its parts are there.
    const wait = setTimeout(() => {
      const changed = withRemedy(store.get().look, remedy);
      if (changed) store.edit(remedy.words, () => changed);
      onSaid(changed ? `${remedy.words}: tried. Ctrl Z takes it back.` : "That step is not in the look any more.");
      // Coming back to this page, or loading it anew, does not try it again.
      void go({ pathname, search }, { replace: true, state: null });
    });
    return () => clearTimeout(wait);
  }, [remedy, store, mayEdit, onSaid, go, pathname, search]);
}
