/** What a look is tested for, in words. */
const percent = (value: number) => `${(value * 100).toFixed(Math.abs(value) < 0.1 ? 1 : 0)} %`;
const codes = (value: number) => (value >= 1e6 ? "no number" : `${value.toFixed(0)} codes`);

interface Measure {
  readonly name: string;
  readonly told: (figure: number) => string;
}

export const measures: Readonly<Record<string, Measure>> = {
  clipped: { name: "Clipped", told: percent },
  crushed: { name: "Crushed", told: percent },
  merged: { name: "Tones merged", told: percent },
  gamut: { name: "Outside its colours", told: percent },
  bands: { name: "Broken gradients", told: percent },
  skin: { name: "Skin turned", told: (value) => `${value.toFixed(0)}\u00b0` },
  noise: { name: "Noise in shadows", told: (value) => `${value.toFixed(1)} times` },
  together: { name: "Codes that become one", told: codes },
  leaps: { name: "Leaps between codes", told: codes },
  reversed: { name: "Tones turned round", told: codes },
  beyond: { name: "Turned round beyond", told: codes },
  lut: { name: "As a LUT of 33 nodes", told: (value) => `${value.toFixed(1)} off` },
};
