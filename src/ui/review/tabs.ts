/** What Review shows. */
export type ReviewTab =
  | 'overall'
  | 'apart'
  | 'trades'
  | 'left'
  | 'page'
  | 'ahead'
  | 'day'
  | 'journal'
  | 'files';
