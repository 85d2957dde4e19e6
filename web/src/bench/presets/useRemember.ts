/** The settings a person leaves a step with are kept by themselves, the last ten of each kind. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { rememberSettings } from "../../api/presets";
import type { Step } from "../../api/types";
import { findStep } from "../../look/arrange";
import { useBench } from "../../look/useBench";

export function useRemember(): void {
  const { store, mayEdit } = useBench();
  const client = useQueryClient();
  useEffect(() => {
    if (!mayEdit) return undefined;
    let id = store.get().selected;
    let begun = findStep(store.get().look, id);
    let last: Step | undefined = begun;
    const leave = () => {
      if (last && begun && last !== begun && last.kind !== "group") {
        void rememberSettings([last])
          .then(() => client.invalidateQueries({ queryKey: ["recents"] }))
          .catch(() => undefined);
      }
    };
    const stop = store.subscribe(() => {
      const { look, selected } = store.get();
      if (selected !== id) {
        leave();
        id = selected;
        begun = findStep(look, id);
      }
      last = findStep(look, id) ?? last;
    });
    return () => {
      stop();
      leave();
    };
  }, [client, mayEdit, store]);
}
