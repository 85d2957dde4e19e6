import { describe, expect, it } from "vitest";
import { framesOf, nameOf, timecodeOf } from "./timecode";

const NTSC = 30000 / 1001;

describe("timecode", () => {
  it("counts plainly at whole rates", () => {
    expect(timecodeOf(0, 24)).toBe("00:00:00:00");
    expect(timecodeOf(24 * 3600 + 25, 24)).toBe("01:00:01:01");
    expect(framesOf("01:00:01:01", 24)).toBe(24 * 3600 + 25);
  });
  it("leaves out two numbers a minute but for every tenth (SMPTE ST 12-1)", () => {
    expect(timecodeOf(1799, NTSC, true)).toBe("00:00:59;29");
    expect(timecodeOf(1800, NTSC, true)).toBe("00:01:00;02");
    expect(timecodeOf(17981, NTSC, true)).toBe("00:09:59;29");
    expect(timecodeOf(17982, NTSC, true)).toBe("00:10:00;00");
    expect(timecodeOf(107892, NTSC, true)).toBe("01:00:00;00");
    expect(timecodeOf(3600, 60000 / 1001, true)).toBe("00:01:00;04");
  });
  it("comes back to where it was", () => {
    for (const rate of [NTSC, 60000 / 1001])
      for (let frame = 0; frame < 120_000; frame += 373)
        expect(framesOf(timecodeOf(frame, rate, true), rate)).toBe(frame);
  });
  it("names a frame by what its clip begins with", () => {
    expect(nameOf(5, "10:00:00:20", 24)).toBe("10:00:01:01");
    expect(nameOf(5, "", 24)).toBeNull();
    expect(framesOf("nonsense", 24)).toBeNull();
  });
});
