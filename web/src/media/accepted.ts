/** Endings of pictures that are read: docs/formats.md. */
export const PICTURES = [".png", ".jpg", ".jpeg", ".tif", ".tiff", ".exr", ".dpx", ".webp"] as const;
