import { contentNames, tableSegments, typeOf, type PartitionTable } from '@ulvane/core/disk';
import { printBothUnits } from '@ulvane/core/quantity';
import { useMemo } from 'react';
import { Tape } from '../drawing/Tape';
import { Findings } from './Findings';

const schemeNames = { gpt: 'GPT', mbr: 'MBR', none: 'no partition table' } as const;

/** A table as it was read: tape, findings, and what stands in each partition. */
export function TableRead({ table, name }: { readonly table: PartitionTable; readonly name: string }) {
  const segments = useMemo(() => tableSegments(asVolume(table), () => 'kept'), [table]);
  const { sectorSizeBytes, sectorCount, partitions } = table;
  return (
    <>
      <p className="mb-1">
        <strong>{schemeNames[table.scheme]}</strong>, {sectorCount.toLocaleString('en')} sectors of{' '}
        {sectorSizeBytes.toLocaleString('en')} bytes, {printBothUnits(sectorCount * sectorSizeBytes)}
        {table.diskId !== undefined && (
          <>
            , disk <span className="mono">{table.diskId}</span>
          </>
        )}
        .
      </p>
      <Tape
        name={name}
        sectorSizeBytes={sectorSizeBytes}
        sectorCount={sectorCount}
        before={segments}
        after={undefined}
        extended={table.extended}
      />
      <Findings table={table} />
      {table.wholeDisk && (
        <p className="mb-1">
          The whole disk is one volume: <strong>{contentNames[table.wholeDisk.kind]}</strong>
          {table.wholeDisk.label !== undefined && ` “${table.wholeDisk.label}”`}
          {table.wholeDisk.usedBytes !== undefined && `, ${printBothUnits(table.wholeDisk.usedBytes)} in use`}
          .
        </p>
      )}
      {partitions.length > 0 && (
        <div className="table-scroll">
          <table className="table">
            <thead>
              <tr>
                <th scope="col">Nr</th>
                <th scope="col">Holds</th>
                <th scope="col">Type in the table</th>
                <th scope="col" className="number">
                  Size
                </th>
                <th scope="col" className="number">
                  Used
                </th>
              </tr>
            </thead>
            <tbody>
              {partitions.map((partition) => (
                <tr key={partition.number}>
                  <td>{partition.number}</td>
                  <td>
                    {partition.content ? contentNames[partition.content.kind] : 'not recognised'}
                    {partition.label !== undefined && ` “${partition.label}”`}
                    {partition.kind === 'logical' && ' (logical)'}
                    {partition.active && ' (active)'}
                  </td>
                  <td>
                    {typeOf(partition.typeCode)?.name ?? 'unknown'}{' '}
                    <span className="small-print mono">
                      {partition.typeCode.length > 6 ? partition.typeCode.slice(0, 8) : partition.typeCode}
                    </span>
                  </td>
                  <td className="number">{printBothUnits(partition.sectorCount * sectorSizeBytes)}</td>
                  <td className="number">
                    {partition.usedBytes === undefined ? 'unknown' : printBothUnits(partition.usedBytes)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}

/** A disk without a table that is one volume as a whole is drawn as that volume, never as free space. */
function asVolume(table: PartitionTable): Pick<PartitionTable, 'partitions' | 'sectorCount' | 'extended'> {
  const { wholeDisk, sectorCount } = table;
  return wholeDisk
    ? {
        sectorCount,
        partitions: [
          {
            number: 1,
            kind: 'primary',
            startLba: 0,
            sectorCount,
            typeCode: '',
            label: wholeDisk.label ?? contentNames[wholeDisk.kind],
          },
        ],
      }
    : table;
}
