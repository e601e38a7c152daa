/** Rows that are shown at most. */
const MOST = 200;

/** Rows of a file that cannot be taken: where each stands, what it says, and why. */
export function BadRows({
  rows,
  all,
  testId,
}: {
  rows: readonly { file?: string; line: number; column: string; value: string; reason: string }[];
  /** How many there are, those that are not shown included. */
  all: number;
  testId: string;
}) {
  const files = rows.some((r) => r.file !== undefined);
  const shown = rows.slice(0, MOST);
  return (
    <>
      <p className="mb-1">
        ⚠ {all} {all === 1 ? 'row' : 'rows'} cannot be used and would be left out:
      </p>
      <div className="max-h-60 overflow-auto">
        <table className="plain text-[13px]" data-testid={testId}>
          <thead>
            <tr>
              {[...(files ? ['File'] : []), 'Line', 'Column', 'Value', 'Reason'].map((h) => (
                <th key={h} scope="col" className="text-left!">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((b, k) => (
              <tr key={`${b.file ?? ''} ${b.line} ${k}`}>
                {files && <td className="max-w-32 truncate">{b.file}</td>}
                <td className="num text-left!">{b.line || ''}</td>
                <td className="text-left!">{b.column}</td>
                <td className="num text-left!">{b.value === '' ? '(empty)' : b.value}</td>
                <td className="text-left!">{b.reason}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {all > shown.length && <p className="text-[13px] text-quiet">and {all - shown.length} more.</p>}
    </>
  );
}
