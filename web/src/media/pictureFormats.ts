/** Kinds of files that graded pictures are taken as. */
export const pictureFormats = [
  { id: "", name: "As it came" },
  { id: "png", name: "PNG" },
  { id: "tiff", name: "TIFF" },
  { id: "jpeg", name: "JPEG" },
  { id: "openexr", name: "EXR" },
  { id: "dpx", name: "DPX" },
] as const;
