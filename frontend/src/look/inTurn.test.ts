import { expect, test } from "vitest";
import { InTurn } from "./inTurn";

test("what is given while something is under way waits for it, and what fails holds nobody up", async () => {
  const line = new InTurn();
  const done: string[] = [];
  line.run(() => done.push("at once"));
  expect(done).toEqual(["at once"]);
  let answer = () => {};
  line.run(() => new Promise<void>((come) => (answer = come)).then(() => done.push("asked")));
  line.run(() => Promise.reject(new Error("refused")));
  line.run(() => done.push("typed meanwhile"));
  expect(line.busy).toBe(true);
  expect(done).toEqual(["at once"]);
  answer();
  await new Promise((soon) => setTimeout(soon));
  expect(done).toEqual(["at once", "asked", "typed meanwhile"]);
  expect(line.busy).toBe(false);
});
