/** Half hours of a day to choose from. */
const HOURS = Array.from({ length: 33 }, (_, k) => {
  const minutes = 5 * 60 + k * 30;
  const text = `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
  return { value: text, title: text };
});

/** Hours of a list that may hold one that is not on the half hour. */
export const hoursWith = (hour: string) => (hour === "" || HOURS.some((h) => h.value === hour) ? HOURS : [...HOURS, { value: hour, title: hour }].sort((a, b) => a.value.localeCompare(b.value)));
