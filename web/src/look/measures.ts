/** What a look is tested for, in words, and as its limits are typed. */
const percent = (value: number) => `${(value * 100).toFixed(Math.abs(value) < 0.1 ? 1 : 0)} %`;
const codes = (value: number) => (value >= 1e6 ? "no number" : `${value.toFixed(0)} codes`);

interface Measure {
  readonly name: string;
  readonly told: (figure: number) => string;
  /** Of a limit as it is typed. */
  readonly unit: string;
  /** What is typed over what is kept. */
  readonly by: number;
  readonly digits: number;
}

const ofPicture = { told: percent, unit: "% of the picture", by: 100, digits: 1 } as const;
const ofRamp = { told: codes, unit: "codes of 10 bits", by: 1, digits: 0 } as const;

export const measures: Readonly<Record<string, Measure>> = {
  clipped: { name: "Clipped", ...ofPicture },
  crushed: { name: "Crushed", ...ofPicture },
  merged: { name: "Tones merged", ...ofPicture, unit: "% of the tones" },
  gamut: { name: "Outside its colours", ...ofPicture },
  bands: { name: "Broken gradients", ...ofPicture },
  skin: { name: "Skin turned", told: (value) => `${value.toFixed(0)}\u00b0`, unit: "degrees", by: 1, digits: 0 },
  noise: { name: "Noise in shadows", told: (value) => `${value.toFixed(1)} times`, unit: "times", by: 1, digits: 1 },
  together: { name: "Codes that become one", ...ofRamp },
  leaps: { name: "Leaps between codes", ...ofRamp },
  reversed: { name: "Tones turned round", ...ofRamp },
  beyond: { name: "Turned round beyond", ...ofRamp },
  lut: {
    name: "As a LUT of 33 nodes",
    told: (value) => `${value.toFixed(1)} off`,
    unit: "CIEDE2000 off",
    by: 1,
    digits: 1,
  },
};
