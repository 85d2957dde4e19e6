/** The server's types under the names the application uses. Generated from web/openapi.json into schema.ts. */
import type { components } from "./schema";

type Schemas = components["schemas"];

export type Look = Schemas["Look"];
export type Step = NonNullable<Look["steps"]>[number];
export type Curves = Schemas["Curves"];
export type Tone = Schemas["Tone"];
export type WhiteBalance = Schemas["WhiteBalance"];
export type Saturation = Schemas["Saturation"];
export type HueBands = Schemas["HueBands"];
export type HueBand = Schemas["Band"];
export type SplitTone = Schemas["SplitTone"];
export type Tint = Schemas["Tint"];
export type Vignette = Schemas["Vignette"];
export type Grain = Schemas["Grain"];
export type Group = Schemas["Group"];
export type LookOut = Schemas["LookOut"];
export type LookLine = Schemas["LookLine"];
export type Version = Schemas["VersionOut"];
export type Picture = Schemas["PictureOut"];
export type Encoding = Schemas["EncodingOut"];
export type Sketch = Schemas["SketchOut"];
export type StepSketch = Schemas["StepSketchOut"];
export type Scopes = Schemas["ScopesOut"];
export type Pixel = Schemas["PixelOut"];
export type Entry = Schemas["EntryOut"];
export type Lut = Schemas["LutOut"];
export type Job = Schemas["JobOut"];
export type Person = Schemas["PersonOut"];
export type StepKind = Schemas["StepKindOut"];
export type Kind = Entry["kind"];
