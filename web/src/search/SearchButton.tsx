import { Search } from "lucide-react";
import { lazy, Suspense, useEffect, useState } from "react";
import styled from "styled-components";
import { Round } from "../frame/panels";
import { Hint } from "../kit/Hint";

const SearchSheet = lazy(async () => ({ default: (await import("./SearchSheet")).SearchSheet }));

const Ring = styled(Round)`
  background: none;
  svg {
    width: 17px;
    height: 17px;
  }
`;

/** The search over everything, in the bar at the top and on Ctrl or Cmd K. */
export function SearchButton() {
  const [isOpen, setOpen] = useState(false);
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const isMeant =
        (event.ctrlKey || event.metaKey) && !event.altKey && !event.shiftKey && event.key.toLowerCase() === "k";
      if (!isMeant) return;
      // Browsers have something of their own on it.
      event.preventDefault();
      // What asks for an answer is answered first.
      if (document.querySelector("[data-veil]") === null) setOpen(true);
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, []);
  return (
    <>
      <Hint text="Go to anything, or do it: Ctrl K">
        <Ring data-station="search" aria-label="Search everything" onPress={() => setOpen(true)}>
          <Search aria-hidden />
        </Ring>
      </Hint>
      {isOpen && (
        <Suspense fallback={null}>
          <SearchSheet onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
