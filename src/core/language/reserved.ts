const WORDS = new Set<string>();

/** Makes words part of the language; a symbol that is spelled so is written in quotes. */
export function reserve(words: Iterable<string>): void {
  for (const w of words) if (/^[a-z]+$/.test(w)) WORDS.add(w);
}
/** Whether a word, in lower case, is part of the language. */
export const isWord = (word: string): boolean => WORDS.has(word);
