/** What the kinds of work are called. */
const kinds: Record<string, string> = {
  bake: "Bake",
  grade: "Graded picture",
  graded: "Graded pictures",
  apart: "LUT taken apart",
  stress: "Look tested",
  proposed: "Proposed looks tested",
  intake: "Pack read",
  begin: "Studio begun",
  chart: "Chart read back",
  pair: "LUT from a pair",
  tool: "LUT made with a tool",
  files: "Files packed",
  picture: "Picture read",
  frame: "Frame read",
  file: "File made",
  pack: "Pack",
  proxy: "Small copy of a clip",
  deliver: "Delivery",
  misfits: "Misfits measured",
};

export const kindOfJob = (kind: string): string => kinds[kind] ?? kind;
