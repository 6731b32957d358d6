/** A copy of a record with one field, named by its path, set. */
export function setAt<T>(record: T, path: string, value: unknown): T {
  const [step, ...rest] = path.split(".") as [string, ...string[]];
  const here = record as Record<string, unknown> | unknown[];
  const next = rest.length === 0 ? value : setAt((here as Record<string, unknown>)[step], rest.join("."), value);
  if (Array.isArray(here)) return here.map((item, k) => (String(k) === step ? next : item)) as T;
  return { ...here, [step]: next } as T;
}
