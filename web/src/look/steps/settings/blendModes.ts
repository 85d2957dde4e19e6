/** The blend modes of W3C Compositing and Blending Level 1, and the sum less one, by what they do. */
import type { Option } from "../../../kit/Picker";

export const blendModes: readonly Option[] = [
  { id: "normal", name: "Normal", note: "takes its place" },
  { id: "multiply", name: "Multiply", note: "darkens, black stays" },
  { id: "screen", name: "Screen", note: "lightens, white stays" },
  { id: "overlay", name: "Overlay", note: "more contrast, by the picture" },
  { id: "hard-light", name: "Hard light", note: "more contrast, by the layer" },
  { id: "soft-light", name: "Soft light", note: "gently lighter or darker" },
  { id: "darken", name: "Darken", note: "the darker of both" },
  { id: "lighten", name: "Lighten", note: "the lighter of both" },
  { id: "color-dodge", name: "Colour dodge", note: "lightens strongly" },
  { id: "color-burn", name: "Colour burn", note: "darkens strongly" },
  { id: "add-less-one", name: "Add less one", note: "darkens evenly, white changes nothing" },
  { id: "difference", name: "Difference" },
  { id: "exclusion", name: "Exclusion" },
  { id: "hue", name: "Hue", note: "only the layer's hue" },
  { id: "saturation", name: "Saturation", note: "only the layer's saturation" },
  { id: "color", name: "Colour", note: "hue and saturation of the layer" },
  { id: "luminosity", name: "Luminosity", note: "only the layer's lightness" },
];
