import { describe, expect, test } from "vitest";
import { answer, CHOSEN, PRESETS, choicesOf, parseTyped, say, shown, typedDigits, unitOf, withUnit, type Quantity } from "./units";

const metric = PRESETS.metric!;
const inches = PRESETS["inch-pound"]!;

describe("what is typed", () => {
  test.each<[string, Quantity, number]>([
    ["3/4 in", "length", 0.01905],
    ["1 1/2 in", "length", 0.0381],
    ["12", "length", 0.012],
    ["0,5 m", "length", 0.5],
    ["4 ft 2 in", "length", 1.27],
    ["5 gal", "volume", 18.927],
    ["1 lb 4 oz", "mass", 0.56699],
    ["2,5", "mass", 2.5],
    ["500 g", "mass", 0.5],
    ["110 F", "temperature", 43.333],
    ["-5", "temperature", -5],
    ["-40 °F", "temperature", -40],
    ["1 h 30 min", "minutes", 90],
    ["85 %", "share", 0.85],
    ["50° 27' N", "angle", 50.45],
    ["50,5 N", "angle", 50.5],
    ["0° 7′ 39″ W", "angle", -0.1275],
    ["30 E", "angle", 30],
    ["-12.5", "angle", -12.5],
    ["60 mph", "speed", 26.822],
    ["1000 BTU/h", "power", 293.0711],
    ["4.5 €", "price", 4.5],
  ])("%s of %s", (text, quantity, base) => {
    expect(parseTyped(text, quantity, metric)).toBeCloseTo(base, 3);
  });

  test.each<[string, Quantity]>([
    ["", "length"], ["abc", "length"], ["3 apples", "mass"], ["4 oz 1 lb", "mass"], ["20 C 3 F", "temperature"], ["50° 99' N", "angle"], ["1 2", "mass"],
  ])("%s of %s is not understood", (text, quantity) => {
    expect(parseTyped(text, quantity, metric)).toBeNull();
  });

  test("a bare number is in the user's own unit", () => {
    expect(parseTyped("212", "temperature", inches)).toBeCloseTo(100);
    expect(parseTyped("2", "mass", inches)).toBeCloseTo(0.907, 3);
  });

  test("what stands in a field is read back as it was, in every unit of every quantity that is set", () => {
    for (const quantity of Object.keys(CHOSEN) as Quantity[]) {
      for (const symbol of choicesOf(quantity)) {
        const units = { ...metric, [quantity]: symbol };
        const text = typedDigits(12.34, quantity, units);
        const read = parseTyped(text, quantity, units)!;
        expect(Math.abs(read - 12.34) / 12.34).toBeLessThan(0.005);
      }
    }
  });
});

describe("what is shown", () => {
  test("never minus nothing", () => {
    expect(withUnit(-0.2, "temperature", metric)).toBe("0 °C");
    expect(withUnit(-0.04, "difference", metric, { signed: true })).toBe("0 K");
  });

  test("digits by the doubt where there is one", () => {
    expect(withUnit(3.44, "difference", metric, { doubt: 1.23 })).toBe("3.4 ± 1.2 K");
    expect(withUnit(98.2, "temperature", inches, { doubt: 3 })).toBe("209 ± 5 °F");
    expect(withUnit(14.04, "difference", metric, { doubt: 2.7, signed: true })).toBe("+14.0 ± 2.7 K");
    expect(withUnit(98.2, "temperature", metric, { doubt: 0.2 })).toBe("98 ± 1 °C");
    expect(withUnit(-0.04, "difference", metric, { doubt: 0.9, signed: true })).toBe("0.0 ± 0.9 K");
    expect(withUnit(1.234, "mass", metric, { doubt: 0.1 })).toBe("1.23 ± 0.10 kg");
  });

  test("a sum answers with four figures", () => {
    expect(answer(27.2222, "volume", metric)).toBe("27.22 L");
    expect(answer(98.379, "temperature", inches)).toBe("209.1 °F");
  });

  test("coins are written out", () => {
    expect([0.5, 38, 4.05].map((v) => withUnit(v, "price", metric))).toEqual(["0.50 €", "38 €", "4.05 €"]);
    expect([4.1, 38].map((v) => typedDigits(v, "price", metric))).toEqual(["4.1", "38"]);
  });

  test("a difference is no temperature, and follows its unit", () => {
    expect(withUnit(10, "difference", inches)).toBe("18 °F");
    expect(unitOf("area_cm2", inches).symbol).toBe("in²");
    expect(shown(0.0254, "length", inches)).toBe("1");
  });

  test("a sentence in the user's units", () => {
    const sentence = ["It gets to ", { value: 100, quantity: "temperature" as const, doubt: null, signed: false }, " with ", { value: 0.5, quantity: "mass" as const, doubt: null, signed: false }, "."];
    expect(say(sentence, metric)).toBe("It gets to 100 °C with 0.5 kg.");
    expect(say(sentence, inches)).toBe("It gets to 212 °F with 1.1 lb.");
  });
});
