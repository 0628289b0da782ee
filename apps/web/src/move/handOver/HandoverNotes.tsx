import { zodResolver } from '@hookform/resolvers/zod';
import { api } from '@ulvane/contract';
import { listOf } from '@ulvane/core/backup';
import { printBothUnits, printCount, printExactBytes } from '@ulvane/core/quantity';
import { accountFor } from '@ulvane/core/record';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { useChange } from '../../api/useMove';
import { Field } from '../../shell/Field';
import { Problem } from '../../shell/Problem';
import { countOrEmpty } from '../../shell/formFields';
import { useFormDraft } from '../../shell/useDraft';
import { useSizes } from '../../shell/useSizes';
import { useOpenMove } from '../MoveContext';

type Row = {
  readonly dataSetId: string;
  readonly files: string;
  readonly size: string;
  readonly explanation: string;
};

/** Counts data sets of which there is no list; a difference needs a reason. What is still open, for the sheet. */
export function HandoverNotes() {
  const { view, move } = useOpenMove();
  const { bytesOf, sizeOrEmpty, reading } = useSizes();
  const { change, error, busy, forgetError } = useChange(view);
  const { handover } = move;
  // A data set with a list of files is compared, not counted.
  const dataSets = move.dataSets.filter((dataSet) => !listOf(move.fileLists, dataSet, 'before'));
  const compared = handover.found.filter(({ dataSetId }) => !dataSets.some(({ id }) => id === dataSetId));
  const rows = dataSets.map(({ id }): Row => {
    const line = handover.found.find(({ dataSetId }) => dataSetId === id);
    return {
      dataSetId: id,
      files: line ? String(line.fileCount) : '',
      size: line ? printExactBytes(line.sizeBytes, 'decimal') : '',
      explanation: line?.explanation ?? '',
    };
  });
  const form = useForm({
    resolver: zodResolver(
      z.object({
        rows: z.array(
          z.object({
            dataSetId: z.string(),
            files: countOrEmpty,
            size: sizeOrEmpty,
            explanation: z.string(),
          }),
        ),
        openPoints: z.string(),
      }),
    ),
    values: { rows, openPoints: handover.openPoints.join('\n') },
    // What others change comes in; what is being typed here stays.
    resetOptions: { keepDirtyValues: true },
  });
  const { register, handleSubmit, setValue, formState, watch } = form;
  const forgetDraft = useFormDraft(
    `${move.reference} hand-over ${dataSets.map(({ id }) => id).join(' ')}`,
    form,
  );
  const accounting = accountFor({ ...move, dataSets });
  const keep = handleSubmit(async ({ rows: written, openPoints }) => {
    const found = written
      .filter(({ files, size }) => files.trim() !== '' && size.trim() !== '')
      .map(({ dataSetId, files, size, explanation }) => ({
        dataSetId,
        fileCount: Number(files),
        sizeBytes: bytesOf(size),
        explanation,
      }));
    const done = await change(api.noteHandover, {
      handover: {
        found: [...compared, ...found],
        openPoints: openPoints
          .split('\n')
          .map((line) => line.trim())
          .filter((line) => line !== ''),
      },
    });
    if (done) forgetDraft();
  });
  return (
    <section className="sheet">
      <h2>{dataSets.length > 0 ? 'Counted after the restore' : 'Open points'}</h2>
      <Problem error={error} onClose={forgetError} />
      <Form onSubmit={(event) => void keep(event)} noValidate>
        {dataSets.length > 0 && (
          <div className="table-scroll">
            <table className="table">
              <thead>
                <tr>
                  <th scope="col">Data set, as saved</th>
                  <th scope="col">Files now</th>
                  <th scope="col">Bytes now</th>
                  <th scope="col">If it differs, why</th>
                  <th scope="col">Outcome</th>
                </tr>
              </thead>
              <tbody>
                {dataSets.map((dataSet, index) => {
                  const state = accounting[index]?.state ?? 'open';
                  const difference = accounting[index]?.fileDifference ?? 0;
                  return (
                    <tr key={dataSet.id}>
                      <th scope="row">
                        {dataSet.name}
                        <div className="small-print">
                          {printCount(dataSet.fileCount, 'file')}, {printBothUnits(dataSet.sizeBytes)}
                        </div>
                        <button
                          type="button"
                          className="btn-plain small-print no-print"
                          aria-label={`checked: the same, ${dataSet.name}`}
                          onClick={() => {
                            setValue(`rows.${index}.files`, String(dataSet.fileCount), { shouldDirty: true });
                            setValue(`rows.${index}.size`, printExactBytes(dataSet.sizeBytes, 'decimal'), {
                              shouldDirty: true,
                            });
                          }}
                        >
                          checked: the same
                        </button>
                      </th>
                      <td>
                        <Form.Control
                          size="sm"
                          inputMode="numeric"
                          aria-label={`Files now of ${dataSet.name}`}
                          {...register(`rows.${index}.files`)}
                          isInvalid={formState.errors.rows?.[index]?.files !== undefined}
                        />
                      </td>
                      <td>
                        <Form.Control
                          size="sm"
                          aria-label={`Bytes now of ${dataSet.name}`}
                          {...register(`rows.${index}.size`)}
                          isInvalid={formState.errors.rows?.[index]?.size !== undefined}
                        />
                        <div className="small-print">
                          {formState.errors.rows?.[index]?.size?.message ??
                            reading(watch(`rows.${index}.size`))}
                        </div>
                      </td>
                      <td>
                        <Form.Control
                          size="sm"
                          aria-label={`Why ${dataSet.name} differs`}
                          {...register(`rows.${index}.explanation`)}
                          maxLength={1000}
                        />
                      </td>
                      <td>
                        <strong>
                          {state === 'equal' ? '✓ all back' : state === 'explained' ? 'explained' : 'open'}
                        </strong>
                        {difference !== 0 && (
                          <div className="small-print">
                            {difference < 0
                              ? `${printCount(-difference, 'file')} missing`
                              : `${printCount(difference, 'file')} more`}
                          </div>
                        )}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
        )}
        <Field label="Open points, one a line">
          {(ids) => <Form.Control {...ids} as="textarea" rows={2} {...register('openPoints')} />}
        </Field>
        <Button type="submit" disabled={busy}>
          Save
        </Button>
      </Form>
    </section>
  );
}
