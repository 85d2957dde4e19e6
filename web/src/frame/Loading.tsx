import { Component, Suspense, useEffect, useState, type ReactNode } from "react";
import { useLocation } from "react-router";
import { Middle } from "../kit/Middle";
import { Notice } from "../kit/Notice";
import { Secondary } from "../kit/Button";

/** Said only when it takes long enough to be noticed. */
function Fetching({ what }: { what: string }) {
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), 400);
    return () => clearTimeout(timer);
  }, []);
  return <Middle role="status">{late ? `Fetching ${what}…` : null}</Middle>;
}

/** What is shown in the place of something whose code does not come: the connection is gone, or the server has a newer one. */
class Failing extends Component<{ place: string; what: string; children: ReactNode }, { error: Error | null }> {
  override state = { error: null as Error | null };
  static getDerivedStateFromError(error: Error) {
    return { error };
  }
  override componentDidUpdate(before: { place: string }) {
    if (this.state.error !== null && before.place !== this.props.place) this.setState({ error: null });
  }
  override render() {
    const { error } = this.state;
    if (error === null) return this.props.children;
    if (!isMissing(error)) throw error;
    return (
      <Middle>
        <Notice>
          {capitalised(this.props.what)} could not be fetched. The connection may be gone, or Saucer was brought up to
          date meanwhile.
        </Notice>
        <Secondary onPress={() => location.reload()}>Reload</Secondary>
      </Middle>
    );
  }
}

const capitalised = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** What browsers say of a script that cannot be fetched; each has words of its own. */
function isMissing(error: Error): boolean {
  return /import|module|preload|chunk/i.test(error.message);
}

/** Around what is fetched when somebody goes there: a page, or a part of one. */
export function Loading({ what = "this page", children }: { what?: string; children: ReactNode }) {
  const { pathname } = useLocation();
  return (
    <Failing place={pathname} what={what}>
      <Suspense fallback={<Fetching what={what} />}>{children}</Suspense>
    </Failing>
  );
}
