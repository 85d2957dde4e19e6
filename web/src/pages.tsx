import { lazy, type ComponentType } from "react";

/** A page whose code is fetched when somebody goes there. */
function page<Name extends string>(load: () => Promise<Record<Name, ComponentType>>, name: Name) {
  return lazy(async () => ({ default: (await load())[name] }));
}

export const BenchPage = page(() => import("./bench/BenchPage"), "BenchPage");
export const BenchStart = page(() => import("./bench/BenchPage"), "BenchStart");
export const SecondWindow = page(() => import("./bench/second/SecondWindow"), "SecondWindow");
export const ShelfPage = page(() => import("./shelf/wall/ShelfPage"), "ShelfPage");
export const BoardPage = page(() => import("./shelf/board/BoardPage"), "BoardPage");
export const DuplicatesPage = page(() => import("./shelf/order/DuplicatesPage"), "DuplicatesPage");
export const BinPage = page(() => import("./shelf/order/BinPage"), "BinPage");
export const QueuePage = page(() => import("./shelf/review/QueuePage"), "QueuePage");
export const EntryPage = page(() => import("./shelf/entry/EntryPage"), "EntryPage");
export const ProjectsPage = page(() => import("./projects/ProjectsPage"), "ProjectsPage");
export const ProjectPage = page(() => import("./projects/wall/ProjectPage"), "ProjectPage");
export const ShotPage = page(() => import("./projects/shot/ShotPage"), "ShotPage");
export const DeliveryPage = page(() => import("./projects/deliver/DeliveryPage"), "DeliveryPage");
export const PicturesPage = page(() => import("./pictures/PicturesPage"), "PicturesPage");
export const EncodingsPage = page(() => import("./encodings/EncodingsPage"), "EncodingsPage");
export const StartPage = page(() => import("./start/StartPage"), "StartPage");
export const BeginPage = page(() => import("./start/BeginPage"), "BeginPage");
export const Landing = page(() => import("./start/Landing"), "Landing");
export const OwnPage = page(() => import("./people/own/OwnPage"), "OwnPage");
export const GuestsPage = page(() => import("./people/guests/GuestsPage"), "GuestsPage");
export const ApiPage = page(() => import("./people/programs/ApiPage"), "ApiPage");
export const HooksPage = page(() => import("./people/hooks/HooksPage"), "HooksPage");
export const PeoplePage = page(() => import("./people/team/PeoplePage"), "PeoplePage");
export const ActivityPage = page(() => import("./people/activity/ActivityPage"), "ActivityPage");
export const SettingsPage = page(() => import("./people/SettingsPage"), "SettingsPage");
export const JobsPage = page(() => import("./people/running/JobsPage"), "JobsPage");
export const StorePage = page(() => import("./people/running/StorePage"), "StorePage");
