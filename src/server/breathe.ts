/** Lets other requests be answered before long work goes on: what is ready, or with `ms` all that comes up in so long. */
export const breathe = (ms = 0): Promise<void> =>
  new Promise((resolve) => {
    if (ms > 0) setTimeout(resolve, ms);
    else setImmediate(resolve);
  });
