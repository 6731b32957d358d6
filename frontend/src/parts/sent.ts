import { ApiProblem } from "../api/client";
import { posted } from "../look/outbox";

/** A chosen file as it is sent: its bytes, for how its letters are written is read by the server. */
export async function asSent(file: File): Promise<{ name: string; text: string; base64: string }> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let binary = "";
  for (let k = 0; k < bytes.length; k += 0x8000) binary += String.fromCharCode(...bytes.subarray(k, k + 0x8000));
  return { name: file.name.slice(0, 120), text: "", base64: btoa(binary) };
}

/** What is wrong with a photo that is larger than the server takes. */
export function tooLarge(file: File, most: number): ApiProblem {
  return new ApiProblem(413, `${file.name} has ${Math.round(file.size / 1e6)} MB; at most ${Math.round(most / 1e6)} MB can be sent. Make it smaller and send it again.`, []);
}

/** Send a photo as it is; the server makes it smaller and strips it of where it was taken. */
export async function sendPhoto<T>(path: string, file: File, most: number): Promise<T> {
  if (file.size > most) throw tooLarge(file, most);
  return posted<T>(path, file);
}
