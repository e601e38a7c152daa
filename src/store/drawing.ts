/** What can be drawn that is no level: it says something to the eye only. */
export const DRAWINGS = ['ray', 'box', 'fibonacci', 'extension', 'note', 'measure'] as const;
export type DrawingKind = (typeof DRAWINGS)[number];
