import Link from 'next/link';

/** A view that is to come: says what will be here and where the same is done today. */
export function NotYet({ title, what, meanwhile }: { title: string; what: string; meanwhile: string }) {
  return (
    <main className="mx-auto max-w-xl px-6 pt-24">
      <h1 className="mb-3 text-xl font-semibold">{title}</h1>
      <p className="mb-3">{what}</p>
      <p className="mb-5 text-quiet">{meanwhile}</p>
      <p className="flex gap-3">
        <Link className="btn" href="/scan">
          Open the Scan
        </Link>
        <Link className="btn" href="/desk">
          Open the Desk
        </Link>
        <Link className="btn" href="/keys">
          Open Keys
        </Link>
      </p>
    </main>
  );
}
