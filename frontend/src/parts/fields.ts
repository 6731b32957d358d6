import type { FieldForm } from "../api/client";

/** Whether a field is asked for at all beside what its neighbours hold. */
export const isAsked = (field: FieldForm, values: Record<string, unknown>) => Object.entries(field.only_with).every(([name, allowed]) => allowed.includes(values[name] as never));
