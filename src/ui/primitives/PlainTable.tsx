import type { ReactNode } from 'react';

/** Numbers under their headings, the first column to the left. */
export function PlainTable({
  heads,
  rows,
}: {
  heads: readonly string[];
  rows: readonly (readonly ReactNode[])[];
}) {
  return (
    <table className="plain text-[13px]">
      <thead>
        <tr>
          {heads.map((h) => (
            <th key={h} scope="col">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="num">
        {rows.map((cells, k) => (
          <tr key={k}>
            {cells.map((c, n) => (
              <td key={n} className="whitespace-nowrap">
                {c}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
