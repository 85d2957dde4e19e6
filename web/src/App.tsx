import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "./api/client";
import { session } from "./api/session";
import { Notice } from "./kit/Notice";
import { LinkPage } from "./people/LinkPage";
import { SignIn } from "./people/SignIn";

const Whole = styled.main`
  display: grid;
  place-content: center;
  height: 100vh;
  color: ${(p) => p.theme.tokens.soft};
`;

const GUEST = /^\/guest\/([\w-]+)$/;
const inside = () => import("./Inside");
// Fetched beside the question who is here, and while somebody signs in.
if (!GUEST.test(window.location.pathname)) void inside();
const Inside = lazy(async () => ({ default: (await inside()).Inside }));
const VisitPage = lazy(async () => ({ default: (await import("./visit/VisitPage")).VisitPage }));

export function App() {
  const client = useQueryClient();
  const { data, error } = useQuery(session);
  useEffect(() => {
    const signedOut = () => void client.invalidateQueries({ queryKey: ["session"] });
    window.addEventListener("saucer:signed-out", signedOut);
    return () => window.removeEventListener("saucer:signed-out", signedOut);
  }, [client]);

  // What one person was shown is not there for the next one at this browser.
  const person = data?.person?.username ?? null;
  const [last, setLast] = useState(person);
  if (last !== person) {
    setLast(person);
    client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== session.queryKey[0] });
  }

  // Whoever comes by a link that lets in is not asked who they are, nor shown what somebody else at this browser has open.
  const code = /^\/link\/([\w-]+)$/.exec(window.location.pathname)?.[1];
  if (code && data && (data.waits_for ?? []).length === 0) return <LinkPage code={code} />;

  // Nor is whoever comes to look at something without an account.
  const visited = GUEST.exec(window.location.pathname)?.[1];
  if (visited && data)
    return (
      <Suspense fallback={null}>
        <VisitPage code={visited} />
      </Suspense>
    );

  if (error && !data)
    return (
      <Whole>
        <Notice>{wordsFor(error)} Reload the page to try again.</Notice>
      </Whole>
    );
  if (!data) return null;
  if (!data.person) return <SignIn />;
  return (
    <Suspense fallback={null}>
      <Inside />
    </Suspense>
  );
}
