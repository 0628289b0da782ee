import type { PartitionTable } from '@ulvane/core/disk';

const weights = { damage: 'Damage', warning: 'Careful', note: 'Note' } as const;

/** What was seen while the table was read, the gravest first. */
export function Findings({ table }: { readonly table: PartitionTable }) {
  const order = ['damage', 'warning', 'note'] as const;
  const findings = [...table.findings].sort((a, b) => order.indexOf(a.weight) - order.indexOf(b.weight));
  if (findings.length === 0) return <p className="small-print mb-1">Nothing is wrong with its table.</p>;
  return (
    <ul className="findings" aria-label="Findings">
      {findings.map(({ code, path, sentence, weight }) => (
        <li key={`${code} ${path}`}>
          <strong>{weights[weight]}</strong>
          {path !== '' && <span className="soft mono"> {placeText(path)}</span>}: {sentence}
        </li>
      ))}
    </ul>
  );
}

/** @example placeText('/lba/1') // 'sector 1' */
function placeText(path: string): string {
  const [, kind, number] = path.split('/');
  return kind === 'lba'
    ? `sector ${number ?? ''}`
    : kind === 'partitions'
      ? `partition ${number ?? ''}`
      : (kind ?? '');
}
