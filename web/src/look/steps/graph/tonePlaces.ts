/** The colours of a wash over tones, each at its tone, in order. */
import type { StepOf } from "../../../api/types";

export type Place = NonNullable<StepOf<"tone-wash">["colours"]>[number];

const GAP = 0.01;
const rounded = (at: number) => Math.round(at * 10000) / 10000;

/** One of them at another tone, between its neighbours. */
export function moved(places: readonly Place[], index: number, to: number): readonly Place[] {
  const low = index > 0 ? (places[index - 1]?.at ?? 0) + GAP : 0;
  const high = index < places.length - 1 ? (places[index + 1]?.at ?? 1) - GAP : 1;
  const at = rounded(Math.min(high, Math.max(low, to)));
  return places.map((one, other) => (other === index ? { ...one, at } : one));
}

/** One more, in the middle of the widest gap, of the colour that lies there already. */
export function added(places: readonly Place[]): { places: readonly Place[]; index: number } {
  if (places.length < 2)
    return {
      places: [
        { at: 0, colour: [0, 0, 0] },
        { at: 1, colour: [1, 1, 1] },
      ],
      index: 0,
    };
  const gap = (index: number) => (places[index]?.at ?? 1) - (places[index - 1]?.at ?? 0);
  const widest = places.reduce((best, _, index) => (index > 0 && gap(index) > gap(best) ? index : best), 1);
  const [before, after] = [places[widest - 1], places[widest]] as [Place, Place];
  const middle = before.colour.map((value, channel) => rounded((value + (after.colour[channel] ?? 0)) / 2));
  const made: Place = { at: rounded((before.at + after.at) / 2), colour: middle as [number, number, number] };
  return { places: [...places.slice(0, widest), made, ...places.slice(widest)], index: widest };
}
