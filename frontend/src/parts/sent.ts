/** A chosen file as it is sent: its bytes, for how its letters are written is read by the server. */
export async function asSent(file: File): Promise<{ name: string; text: string; base64: string }> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let binary = "";
  for (let k = 0; k < bytes.length; k += 0x8000) binary += String.fromCharCode(...bytes.subarray(k, k + 0x8000));
  return { name: file.name.slice(0, 120), text: "", base64: btoa(binary) };
}
