/** Lets other requests be answered before long work goes on. */
export const breathe = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));
