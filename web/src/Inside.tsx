import { useQuery } from "@tanstack/react-query";
import { useEffect, type ReactNode } from "react";
import { RouterProvider } from "react-aria-components";
import { BrowserRouter, Link, Route, Routes, useHref, useNavigate } from "react-router";
import styled from "styled-components";
import { session } from "./api/session";
import { Loading } from "./frame/Loading";
import {
  ActivityPage,
  ApiPage,
  BeginPage,
  BenchPage,
  BenchStart,
  BinPage,
  BoardPage,
  DeliveryPage,
  DuplicatesPage,
  EncodingsPage,
  EntryPage,
  GuestsPage,
  HooksPage,
  JobsPage,
  Landing,
  OwnPage,
  PeoplePage,
  PicturesPage,
  ProjectPage,
  ProjectsPage,
  QueuePage,
  SecondWindow,
  SettingsPage,
  ShelfPage,
  ShotPage,
  StartPage,
  StorePage,
} from "./pages";
import { TopBar } from "./frame/TopBar";
import { Middle } from "./kit/Middle";
import { SearchButton } from "./search/SearchButton";

const Frame = styled.div`
  display: grid;
  grid-template-rows: ${(p) => p.theme.tokens.top} minmax(0, 1fr);
  height: 100vh;
  min-width: 1080px;
`;

/** Links inside lists and menus change the address as links elsewhere do. */
function Linked({ children }: { children: ReactNode }) {
  const navigate = useNavigate();
  return (
    <RouterProvider navigate={(to) => void navigate(to)} useHref={useHref}>
      {children}
    </RouterProvider>
  );
}

/** A file that misses its place is no reason for the browser to leave the page and open it. */
function useNoFileOpened(): void {
  useEffect(() => {
    const stay = (event: DragEvent) => {
      if (event.dataTransfer?.types.includes("Files") && !event.defaultPrevented) {
        event.preventDefault();
        event.dataTransfer.dropEffect = "none";
      }
    };
    window.addEventListener("dragover", stay);
    window.addEventListener("drop", stay);
    return () => {
      window.removeEventListener("dragover", stay);
      window.removeEventListener("drop", stay);
    };
  }, []);
}

/** The bar at the top and the page at this address. */
function Framed() {
  const { data } = useQuery(session);
  // Nothing else is open before what the studio asks for is set up.
  if (data?.lacks_second)
    return (
      <Loading>
        <OwnPage />
      </Loading>
    );
  return (
    <Frame>
      <TopBar tools={<SearchButton />}>
        <Loading>
          <Routes>
            <Route path="/" element={<Landing />} />
            <Route path="/start" element={<StartPage />} />
            <Route path="/studio/begin" element={<BeginPage />} />
            <Route path="/bench" element={<BenchStart />} />
            <Route path="/bench/:id" element={<BenchPage />} />
            <Route path="/shelf" element={<ShelfPage />} />
            <Route path="/shelf/board" element={<BoardPage key="address" />} />
            <Route path="/shelf/board/:id" element={<BoardPage key="kept" />} />
            <Route path="/shelf/duplicates" element={<DuplicatesPage />} />
            <Route path="/shelf/bin" element={<BinPage />} />
            <Route path="/shelf/review" element={<QueuePage />} />
            <Route path="/shelf/:kind/:id" element={<EntryPage />} />
            <Route path="/projects" element={<ProjectsPage />} />
            <Route path="/projects/:id" element={<ProjectPage />} />
            <Route path="/projects/:id/shots/:shot" element={<ShotPage />} />
            <Route path="/projects/:id/deliveries/:number" element={<DeliveryPage />} />
            <Route path="/pictures" element={<PicturesPage />} />
            <Route path="/encodings" element={<EncodingsPage />} />
            <Route path="/you" element={<OwnPage />} />
            <Route path="/you/guests" element={<GuestsPage />} />
            <Route path="/you/api" element={<ApiPage />} />
            <Route path="/studio/people" element={<PeoplePage />} />
            <Route path="/studio/activity" element={<ActivityPage />} />
            <Route path="/studio/jobs" element={<JobsPage />} />
            <Route path="/studio/store" element={<StorePage />} />
            <Route path="/studio/hooks" element={<HooksPage />} />
            <Route path="/studio/settings" element={<SettingsPage />} />
            <Route
              path="*"
              element={
                <Middle>
                  <p>There is nothing at this address.</p>
                  <Link to="/start">To the start</Link>
                </Middle>
              }
            />
          </Routes>
        </Loading>
      </TopBar>
    </Frame>
  );
}

/** Everything behind the door. */
export function Inside() {
  useNoFileOpened();
  return (
    // A page that is left goes at once: while the next one is being fetched it would still write its own address, and win.
    <BrowserRouter useTransitions={false}>
      <Linked>
        <Routes>
          <Route
            path="/bench/second"
            element={
              <Loading>
                <SecondWindow />
              </Loading>
            }
          />
          <Route path="*" element={<Framed />} />
        </Routes>
      </Linked>
    </BrowserRouter>
  );
}
