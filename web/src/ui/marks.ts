/** A mark that no other sending has. */
export function newIdempotencyKey() {
  const parts = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(parts, (part) => part.toString(16).padStart(2, "0")).join("");
}
