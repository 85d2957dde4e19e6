/** Frame numbers as timecode and back, drop-frame too. Source: SMPTE ST 12-1, 5.2 (drop-frame counting). */

const DROPS: Readonly<Record<number, number>> = { 30: 2, 60: 4 };

/** Numbers a minute that drop-frame counting leaves out; none for a rate that needs none. */
function dropped(rate: number): number {
  return Number.isInteger(Math.round(rate * 1000) / 1000) ? 0 : (DROPS[Math.round(rate)] ?? 0);
}

/** How many frames after 00:00:00:00 a timecode stands; null for what is none. A semicolon says that it drops. */
export function framesOf(timecode: string, rate: number): number | null {
  const parts = /^(\d{1,2}):(\d{2}):(\d{2})([:;])(\d{2,3})$/.exec(timecode);
  if (!parts) return null;
  const [hours, minutes, seconds, frames] = [parts[1], parts[2], parts[3], parts[5]].map(Number) as [
    number,
    number,
    number,
    number,
  ];
  const base = Math.round(rate);
  const whole = (hours * 3600 + minutes * 60 + seconds) * base + frames;
  if (parts[4] === ":") return whole;
  const all = hours * 60 + minutes;
  return whole - dropped(rate) * (all - Math.floor(all / 10));
}

/** The timecode so many frames after 00:00:00:00; drops: as ; timecodes count. */
export function timecodeOf(frame: number, rate: number, drops = false): string {
  const base = Math.round(rate);
  let number = frame;
  const left = drops ? dropped(rate) : 0;
  if (left > 0) {
    const inMinute = base * 60 - left;
    const inTen = inMinute * 10 + left;
    const [tens, rest] = [Math.floor(number / inTen), number % inTen];
    number += left * 9 * tens + (rest >= base * 60 ? left * (1 + Math.floor((rest - base * 60) / inMinute)) : 0);
  }
  const two = (value: number) => String(value).padStart(2, "0");
  const seconds = Math.floor(number / base);
  const day = Math.floor(seconds / 3600) % 24;
  return `${two(day)}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}${left > 0 ? ";" : ":"}${two(number % base)}`;
}

/** What a frame of a clip is called: its timecode where the clip has one, else none. */
export function nameOf(frame: number, timecode: string, rate: number): string | null {
  const start = framesOf(timecode, rate);
  return start === null ? null : timecodeOf(start + frame, rate, timecode.includes(";"));
}
