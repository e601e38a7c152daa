/** Text ids in front of the book, as a gateway would keep them: from a text to the number the book knows the order by. */
export interface Names {
  /** Names an order; the text must be new. */
  add(text: string, place: number): void;
  /** The number of a text, 0 when there is none. */
  get(text: string): number;
}

/**
 * Texts and numbers stand in the order in which they came; they are found by open addressing with
 * linear probing over pairs of hash (FNV-1a) and position + 1, side by side because they are used together.
 */
export function createNames(expected: number): Names {
  let mask = 2 ** Math.ceil(Math.log2(expected * 2)) - 1;
  let pairs = new Int32Array((mask + 1) * 2);
  const texts: string[] = [];
  const places: number[] = [];
  const put = (hash: number, position: number) => {
    let k = hash & mask;
    while (pairs[k * 2 + 1] !== 0) k = (k + 1) & mask;
    pairs[k * 2] = hash;
    pairs[k * 2 + 1] = position;
  };
  return {
    add(text, place) {
      if (texts.length * 2 > mask) {
        const old = pairs;
        mask = mask * 4 + 3;
        pairs = new Int32Array((mask + 1) * 2);
        for (let i = 0; i < old.length; i += 2)
          if (old[i + 1] !== 0) put(old[i] as number, old[i + 1] as number);
      }
      texts.push(text);
      places.push(place);
      put(hashOf(text), texts.length);
    },
    get(text) {
      const hash = hashOf(text);
      for (let k = hash & mask; pairs[k * 2 + 1] !== 0; k = (k + 1) & mask)
        if (pairs[k * 2] === hash && texts[(pairs[k * 2 + 1] as number) - 1] === text)
          return places[(pairs[k * 2 + 1] as number) - 1] as number;
      return 0;
    },
  };
}

function hashOf(text: string): number {
  let h = 0x811c9dc5 | 0;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
  return h ^ (h >>> 15);
}
