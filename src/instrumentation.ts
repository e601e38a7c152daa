/** Runs once when the server starts, before it answers. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { makeReady } = await import('./server/starts.ts');
  await makeReady();
}
