import type { FindingView } from '@drive-keep/api';

/** What was found in a file, line by line: what stops it, and what somebody should look at. */
export function Findings({ findings }: { findings: readonly FindingView[] }) {
  return (
    <ul className="mt-2">
      {findings.map(({ line, column, attention, text }) => (
        <li
          key={`${line} ${column} ${text}`}
          className={`mb-1 border-l-4 px-3 py-1 ${attention === 'stop' ? 'border-stop bg-stop-wash' : 'border-look bg-look-wash'}`}
        >
          <span className="mr-2 text-sm">
            {line === null ? 'the whole file' : `line ${line}`}
            {column && `, ${column}`}
          </span>
          {text}
        </li>
      ))}
    </ul>
  );
}
