import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, type ReactNode } from "react";
import { RouterProvider } from "react-aria-components";
import { BrowserRouter, Link, Navigate, Route, Routes, useHref, useNavigate } from "react-router";
import styled from "styled-components";
import { wordsFor } from "./api/client";
import { session } from "./api/session";
import { BenchPage, BenchStart } from "./bench/BenchPage";
import { Notice } from "./kit/Notice";
import { SignIn } from "./people/SignIn";
import { EncodingsPage } from "./encodings/EncodingsPage";
import { PicturesPage } from "./pictures/PicturesPage";
import { DeliveryPage } from "./projects/deliver/DeliveryPage";
import { ProjectPage } from "./projects/wall/ProjectPage";
import { ShotPage } from "./projects/shot/ShotPage";
import { ProjectsPage } from "./projects/ProjectsPage";
import { BoardPage } from "./shelf/board/BoardPage";
import { EntryPage } from "./shelf/entry/EntryPage";
import { BinPage } from "./shelf/order/BinPage";
import { DuplicatesPage } from "./shelf/order/DuplicatesPage";
import { QueuePage } from "./shelf/review/QueuePage";
import { ShelfPage } from "./shelf/wall/ShelfPage";
import { TopBar } from "./frame/TopBar";

const Frame = styled.div`
  display: grid;
  grid-template-rows: ${(p) => p.theme.tokens.top} minmax(0, 1fr);
  height: 100vh;
  min-width: 1080px;
`;
const Plain = styled.main`
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 12px;
  height: 100%;
  color: ${(p) => p.theme.tokens.soft};
`;

/** Links inside lists and menus change the address as links elsewhere do. */
function Inside({ children }: { children: ReactNode }) {
  const navigate = useNavigate();
  return (
    <RouterProvider navigate={(to) => void navigate(to)} useHref={useHref}>
      {children}
    </RouterProvider>
  );
}

export function App() {
  const client = useQueryClient();
  const { data, error } = useQuery(session);
  useEffect(() => {
    const signedOut = () => void client.invalidateQueries({ queryKey: ["session"] });
    window.addEventListener("saucer:signed-out", signedOut);
    return () => window.removeEventListener("saucer:signed-out", signedOut);
  }, [client]);

  if (error && !data)
    return (
      <Plain style={{ height: "100vh" }}>
        <Notice>{wordsFor(error)} Reload the page to try again.</Notice>
      </Plain>
    );
  if (!data) return null;
  if (!data.person) return <SignIn />;
  return (
    <BrowserRouter>
      <Inside>
        <Frame>
          <TopBar>
            <Routes>
              <Route path="/" element={<Navigate to="/bench" replace />} />
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
              <Route
                path="*"
                element={
                  <Plain>
                    <p>There is nothing at this address.</p>
                    <Link to="/bench">To the Bench</Link>
                  </Plain>
                }
              />
            </Routes>
          </TopBar>
        </Frame>
      </Inside>
    </BrowserRouter>
  );
}
