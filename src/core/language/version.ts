/** The language that is printed; texts of an earlier one may hold forms that have been retired since. */
export const LANGUAGE_VERSION = 3;
