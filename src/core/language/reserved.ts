const WORDS = new Set<string>();

/** Makes words part of the language; a symbol that is spelled so is written in quotes. */
export function reserve(words: Iterable<string>): void {
  for (const w of words) if (/^[a-z]+$/.test(w)) WORDS.add(w);
}
const BORROWED = new Set<string>();
/** Makes words known that others use for something of ours: in small letters they are no symbols. */
export function borrow(words: Iterable<string>): void {
  for (const w of words) BORROWED.add(w);
}
export const isBorrowed = (word: string): boolean => BORROWED.has(word);
/** Whether a word, in lower case, is part of the language. */
export const isWord = (word: string): boolean => WORDS.has(word);
