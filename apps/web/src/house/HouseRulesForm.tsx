import { api, type HouseView } from '@ulvane/contract';
import { parseWith, type Outcome } from '@ulvane/core/outcome';
import {
  houseRuleLabel,
  HouseRulesSchema,
  houseRuleKeys,
  houseRuleTexts,
  rateIds,
  rateLabels,
  setUpLabels,
  termIds,
  termLabels,
  defaultHouseRules,
  type HouseRules,
  type HouseRuleKey,
} from '@ulvane/core/rules';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useForm, type UseFormRegister } from 'react-hook-form';
import { useSWRConfig } from 'swr';
import { call } from '../api/call';
import { keys } from '../api/keys';
import { Problem } from '../shell/Problem';
import { answerOf } from './answers';
import { EffectOnSample } from './EffectOnSample';

type Written = {
  readonly settings: Record<string, string>;
  readonly rates: Record<string, string>;
  readonly setUp: Record<string, string>;
  readonly weights: Record<string, string>;
};

/** Numbers as they are written, by their names. */
const numbersOf = (written: Record<string, string>) =>
  Object.fromEntries(Object.entries(written).map(([id, text]) => [id, Number(text.replace(',', '.'))]));

/** The form as house rules, or what does not fit. */
function readHouseRules(
  { settings, rates, setUp, weights }: Written,
  // Noted on the media shelf, and kept as they are.
  { lines }: Pick<HouseRules, 'lines'>,
): Outcome<HouseRules> {
  return parseWith(HouseRulesSchema, {
    lines,
    ...Object.fromEntries(Object.entries(settings).map(([key, text]) => [key, answerOf(text)])),
    rates: numbersOf(rates),
    setUp,
    weights: numbersOf(weights),
  });
}

/** Both sides of each question, the house's answer, and the weights of the advice. */
export function HouseRulesForm({
  house,
  editable,
}: {
  readonly house: HouseView;
  readonly editable: boolean;
}) {
  const { mutate } = useSWRConfig();
  const [error, setError] = useState<unknown>();
  const { houseRules, houseRulesVersion } = house;
  const { register, handleSubmit, formState, watch, reset } = useForm<Written>({
    defaultValues: {
      settings: {
        ...Object.fromEntries(houseRuleKeys.map((key) => [key, String(houseRules[key])])),
        timeZone: houseRules.timeZone,
      },
      setUp: { ...houseRules.setUp },
      rates: Object.fromEntries(rateIds.map((id) => [id, String(houseRules.rates[id])])),
      weights: Object.fromEntries(termIds.map((id) => [id, String(houseRules.weights[id])])),
    },
  });
  const next = readHouseRules(watch(), houseRules);
  const keep = handleSubmit(async () => {
    if (!next.ok) return;
    setError(undefined);
    try {
      await mutate(
        keys.house,
        await call(api.setHouseRules, { body: { version: houseRulesVersion, houseRules: next.value } }),
        { revalidate: false },
      );
      await mutate(keys.houseRulesHistory);
    } catch (problem) {
      setError(problem);
    }
  });
  return (
    <Form onSubmit={(event) => void keep(event)}>
      <section className="sheet">
        <h2>House rules</h2>
        <ul className="check-rows">
          {houseRuleKeys.map((key) => (
            <SettingRow key={key} setting={key} editable={editable} register={register} />
          ))}
        </ul>
      </section>
      <section className="sheet">
        <h2>Time zone</h2>
        <fieldset disabled={!editable}>
          <label className="form-label" htmlFor="time-zone">
            Times on screen, on paper and in messages
          </label>
          <Form.Select id="time-zone" {...register('settings.timeZone')} style={{ maxWidth: '22rem' }}>
            {[...new Set(['UTC', houseRules.timeZone, ...Intl.supportedValuesOf('timeZone')])].map((zone) => (
              <option key={zone}>{zone}</option>
            ))}
          </Form.Select>
          <p className="small-print mb-0">Stored as UTC; every time that is shown is marked with its zone.</p>
        </fieldset>
      </section>
      <section className="sheet" id="rates">
        <h2>Rates</h2>
        <p className="soft">
          What puts hands-on time, money and what is given up on one scale, in the prices of the fleet.
        </p>
        <fieldset disabled={!editable} className="row">
          {rateIds.map((id) => (
            <div className="col-4 mb-2" key={id}>
              <label className="form-label" htmlFor={`rate-${id}`}>
                {rateLabels[id]}
              </label>
              <Form.Control id={`rate-${id}`} type="number" min={0} step="any" {...register(`rates.${id}`)} />
            </div>
          ))}
        </fieldset>
      </section>
      <section className="sheet" id="set-up">
        <h2>Names in set-up</h2>
        <p className="soft">
          What the answer sheet of an installer fills in. The password stays in the vault.
        </p>
        <fieldset disabled={!editable} className="row">
          <div className="col-6 mb-2">
            <label className="form-label" htmlFor="set-up-administrator">
              {setUpLabels.administrator}
            </label>
            <Form.Control
              id="set-up-administrator"
              className="mono"
              maxLength={32}
              {...register('setUp.administrator')}
            />
          </div>
          <div className="col-6 mb-2">
            <label className="form-label" htmlFor="set-up-computer">
              {setUpLabels.computerName}
            </label>
            <Form.Control
              id="set-up-computer"
              className="mono"
              maxLength={60}
              aria-describedby="set-up-computer-hint"
              {...register('setUp.computerName')}
            />
            <span className="soft" id="set-up-computer-hint">
              {'{site}, {number} and {owner} stand for those of the move; 15 characters at most.'}
            </span>
          </div>
        </fieldset>
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
        {!editable && <p className="soft mb-0">Only leads change house rules.</p>}
      </section>
      {editable && formState.isDirty && (
        <section className="sheet before-keeping" aria-labelledby="effect" aria-live="polite">
          <h2 id="effect">Before saving</h2>
          <Problem error={error} />
          {next.ok ? (
            <EffectOnSample house={house} houseRules={next.value} />
          ) : (
            <p className="notice" role="alert">
              {next.problems.map(({ sentence }) => sentence).join(' ')}
            </p>
          )}
          <div className="d-flex gap-2">
            <Button type="submit" disabled={formState.isSubmitting || !next.ok}>
              Save house rules
            </Button>
            <Button variant="quiet" onClick={() => reset()}>
              Cancel
            </Button>
          </div>
        </section>
      )}
    </Form>
  );
}

type SettingRowProps = {
  readonly setting: HouseRuleKey;
  readonly editable: boolean;
  readonly register: UseFormRegister<Written>;
};

function SettingRow({ setting, editable, register }: SettingRowProps) {
  const { title, sides, effect, defaultBecause } = houseRuleTexts[setting];
  return (
    <li>
      <fieldset disabled={!editable}>
        <legend className="h3 mb-1">{title}</legend>
        {setting === 'keepBackupDays' ? (
          <>
            <Form.Control
              {...register(`settings.${setting}`)}
              type="number"
              min={1}
              max={3650}
              aria-label={title}
              style={{ width: '7rem' }}
            />
            {sides.map(({ value, label, reason }) => (
              <span key={value} className="d-block">
                <strong>{label}.</strong> {reason}
              </span>
            ))}
          </>
        ) : (
          sides.map(({ value, label, reason }) => (
            <Form.Check
              key={value}
              type="radio"
              id={`${setting}-${value}`}
              value={value}
              {...register(`settings.${setting}`)}
              label={
                <>
                  <strong>{label}.</strong> {reason}
                </>
              }
            />
          ))
        )}
        <span className="small-print d-block">
          Effect: {effect} Shipped as “{houseRuleLabel(setting, defaultHouseRules[setting])}”:{' '}
          {defaultBecause}
        </span>
      </fieldset>
    </li>
  );
}
