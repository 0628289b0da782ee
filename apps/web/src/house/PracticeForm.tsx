import { api, type HouseView } from '@ulvane/contract';
import { parseWith, practiceTexts, PracticeSchema, termIds, termLabels } from '@ulvane/core';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { useSWRConfig } from 'swr';
import { call } from '../api/call';
import { Problem } from '../shell/Problem';

type Setting = keyof typeof practiceTexts;
const settings = Object.keys(practiceTexts).filter((key): key is Setting => key in practiceTexts);

/** A written setting as its value: `true`, `2` and `tell-apart` alike. */
function valueOfText(text: string): unknown {
  if (text === 'true' || text === 'false') return text === 'true';
  return /^\d+$/.test(text) ? Number(text) : text;
}

/** Both sides of each question, the house's answer, and the weights of the advice. */
export function PracticeForm({ house, editable }: { readonly house: HouseView; readonly editable: boolean }) {
  const { mutate } = useSWRConfig();
  const [error, setError] = useState<unknown>();
  const [unfit, setUnfit] = useState<readonly string[]>([]);
  const { practice, practiceVersion } = house;
  const { register, handleSubmit, formState } = useForm({
    defaultValues: {
      settings: Object.fromEntries(settings.map((key) => [key, String(practice[key])])),
      weights: Object.fromEntries(termIds.map((id) => [id, String(practice.weights[id])])),
    },
  });
  const keep = handleSubmit(async (written) => {
    setError(undefined);
    const next = parseWith(PracticeSchema, {
      ...Object.fromEntries(Object.entries(written.settings).map(([key, text]) => [key, valueOfText(text)])),
      weights: Object.fromEntries(
        Object.entries(written.weights).map(([id, text]) => [id, Number(text.replace(',', '.'))]),
      ),
    });
    if (!next.ok) return setUnfit(next.problems.map(({ sentence }) => sentence));
    setUnfit([]);
    try {
      await mutate(
        'house',
        await call(api.setPractice, { body: { version: practiceVersion, practice: next.value } }),
        { revalidate: false },
      );
    } catch (problem) {
      setError(problem);
    }
  });
  return (
    <Form onSubmit={(event) => void keep(event)}>
      <section className="sheet">
        <h2>House practice</h2>
        <Problem error={error} />
        {unfit.length > 0 && (
          <p className="notice" role="alert">
            {unfit.join(' ')}
          </p>
        )}
        <ul className="check-rows">
          {settings.map((key) => {
            const { title, sides, effect } = practiceTexts[key];
            return (
              <li key={key}>
                <fieldset disabled={!editable}>
                  <legend className="h3 mb-1">{title}</legend>
                  {key === 'keepBackupDays' ? (
                    <Form.Control
                      {...register(`settings.${key}`)}
                      type="number"
                      min={1}
                      max={3650}
                      aria-label={title}
                      style={{ width: '7rem' }}
                    />
                  ) : (
                    sides.map(({ value, label, reason }) => (
                      <Form.Check
                        key={value}
                        type="radio"
                        id={`${key}-${value}`}
                        value={value}
                        {...register(`settings.${key}`)}
                        label={<PracticeSide label={label} reason={reason} />}
                      />
                    ))
                  )}
                  <span className="small-print">Effect: {effect}</span>
                </fieldset>
              </li>
            );
          })}
        </ul>
      </section>
      <section className="sheet">
        <h2>Weights of the advice</h2>
        <p className="soft">0 to 10: how much each counts when routes are put in order.</p>
        <fieldset disabled={!editable} className="row">
          {termIds.map((id) => (
            <div className="col-4 mb-2" key={id}>
              <label className="form-label" htmlFor={`weight-${id}`}>
                {termLabels[id]}
              </label>
              <Form.Control
                id={`weight-${id}`}
                type="number"
                min={0}
                max={10}
                step={0.5}
                {...register(`weights.${id}`)}
              />
            </div>
          ))}
        </fieldset>
        {editable ? (
          <Button type="submit" disabled={formState.isSubmitting || !formState.isDirty}>
            Keep for the house
          </Button>
        ) : (
          <p className="soft mb-0">Only leads change house practice.</p>
        )}
      </section>
    </Form>
  );
}

function PracticeSide({ label, reason }: { readonly label: string; readonly reason: string }) {
  return (
    <>
      <strong>{label}.</strong> {reason}
    </>
  );
}
