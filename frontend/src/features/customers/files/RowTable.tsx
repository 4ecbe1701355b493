export interface FileRow {
  line: number;
  becomes: string;
  words: string;
  notes: string[];
  problems: string[];
}

/** Rows of a file, with what becomes of each and why. */
export const RowTable = ({ rows }: { rows: FileRow[] }) => (
  <table className="w-full text-left text-sm" aria-label="Rows of the file">
    <tbody>
      {rows.map((one) => (
        <tr key={one.line} className="border-t border-hairline align-top">
          <td className="figures w-14 pr-2 text-ink-soft">{one.line}</td>
          <td className={`w-20 pr-2 font-semibold ${one.becomes === 'refused' ? 'text-bad' : ''}`}>
            {one.becomes}
          </td>
          <td className="pr-2">{one.words}</td>
          <td className={one.problems.length > 0 ? 'text-bad' : 'text-ink-soft'}>
            {[...one.problems, ...one.notes].join('; ')}
          </td>
        </tr>
      ))}
    </tbody>
  </table>
);
