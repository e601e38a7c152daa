/**
 * Places for labels that do not cover each other: each as near to where it belongs as the others let it be, in
 * their order, within 0 and `room`. What does not fit into the room at all is packed from its beginning.
 */
export function spread(labels: readonly { at: number; size: number }[], room: number, gap = 4): number[] {
  const order = labels.map((_, k) => k).sort((a, b) => (labels[a]?.at ?? 0) - (labels[b]?.at ?? 0));
  const places = labels.map((l) => l.at);
  const half = (k: number) => (labels[k]?.size ?? 0) / 2;
  /** Least place of each from the left, then most from the right; where both cross there is no room. */
  let edge = -gap;
  for (const k of order) {
    places[k] = Math.max(places[k] as number, edge + gap + half(k));
    edge = (places[k] as number) + half(k);
  }
  edge = room + gap;
  for (const k of [...order].reverse()) {
    places[k] = Math.min(places[k] as number, edge - gap - half(k));
    edge = (places[k] as number) - half(k);
  }
  edge = -gap;
  for (const k of order) {
    places[k] = Math.max(places[k] as number, edge + gap + half(k));
    edge = (places[k] as number) + half(k);
  }
  return places;
}
