import { expect, test } from "vitest";
import { setAt } from "./setAt";

test("a field deep within is set in a copy, everything else stays", () => {
  const before = { a: 1, wall: [{ of: "cork", thick: 2 }, { of: "card", thick: 4 }] };
  const after = setAt(before, "wall.1.thick", 9);
  expect(after).toEqual({ a: 1, wall: [{ of: "cork", thick: 2 }, { of: "card", thick: 9 }] });
  expect(before.wall[1]!.thick).toBe(4);
  expect(after.wall[0]).toBe(before.wall[0]);
});
