import { expect, test } from "vitest";
import type { Account } from "../../api/types";
import { factorsOf, ownsOf } from "./words";

const account = (more: Partial<Account>): Account => ({
  username: "ilse",
  name: "Ilse Harrow",
  email: "",
  role: "designer",
  is_active: true,
  is_service: false,
  since: "2026-11-30T00:00:00Z",
  seen: null,
  factors: [],
  tokens: 0,
  owns: {},
  is_held: false,
  ...more,
});

test("what somebody owns is said with what there is most of first", () => {
  expect(ownsOf(account({ owns: { board: 1, look: 12, lut: 2 } }))).toBe("12 looks, 2 LUTs, 1 board");
  expect(ownsOf(account({}))).toBe("");
});

test("recovery codes are no factor of their own", () => {
  expect(factorsOf(account({ factors: ["recovery_codes", "totp", "webauthn"] }))).toBe("app, passkey");
  expect(factorsOf(account({}))).toBe("");
});
