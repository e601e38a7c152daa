/** Where a piece of text stands, in characters from its start. */
export interface Span {
  from: number;
  to: number;
}

/** What a word does in a sentence, for its look in the editor. */
export type Role =
  | 'verb'
  | 'word'
  | 'size'
  | 'price'
  | 'offset'
  | 'symbol'
  | 'name'
  | 'field'
  | 'value'
  | 'time'
  | 'comment';

/** A word of a sentence with what it does there. */
export interface Mark extends Span {
  role: Role;
}
