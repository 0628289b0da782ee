import type { MoveList, MoveListQuery } from '@ulvane/contract';
import { verdicts } from '@ulvane/core/assess';
import { findRelease, releaseTitle } from '@ulvane/core/catalogue';
import { stages, stageTitles } from '@ulvane/core/record';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useHouse } from '../api/useHouse';
import { Field } from '../shell/Field';

type FleetFiltersProps = {
  readonly query: Omit<MoveListQuery, 'page' | 'pageSize'>;
  readonly first: MoveList | undefined;
  readonly onChange: (changes: Readonly<Record<string, string>>) => void;
  readonly onClear: () => void;
};

type Option = { readonly value: string; readonly label: string };
const plain = (values: readonly string[]): Option[] => values.map((value) => ({ value, label: value }));

/** Filters that are set by a link from the groups, and shown so that they can be taken off. */
const linked = [
  ['device', 'Model'],
  ['present', 'Now'],
  ['unlock', 'Unlocked by'],
] as const;

/** Search and filters; the server does both. */
export function FleetFilters({ query, first, onChange, onClear }: FleetFiltersProps) {
  // Typed at once, put into the address right after: the address follows the hand.
  const [words, setWords] = useState(query.search);
  const choices: readonly (readonly [keyof typeof query, string, readonly Option[]])[] = [
    ['stage', 'Stage', stages.map((stage) => ({ value: stage, label: stageTitles[stage] }))],
    ['site', 'Site', plain(first?.sites ?? [])],
    ['route', 'Route', plain(first?.routes ?? [])],
    ['verdict', 'Newer releases', plain(verdicts)],
  ];
  const { house } = useHouse();
  const titleOf = (id: string) => {
    const release = house && findRelease(house.catalogue, id);
    return release ? releaseTitle(release) : id;
  };
  const filtered =
    query.search !== '' ||
    [...choices.map(([key]) => key), ...linked.map(([key]) => key)].some((key) => query[key] !== '');
  return (
    <div className="fleet-tools">
      <Field label="Search">
        {(ids) => (
          <Form.Control
            {...ids}
            type="search"
            placeholder="serial, device, owner …"
            value={words}
            onChange={({ target }) => {
              setWords(target.value);
              onChange({ search: target.value });
            }}
          />
        )}
      </Field>
      {choices.map(([key, label, options]) => (
        <Field key={key} label={label}>
          {(ids) => (
            <Form.Select
              {...ids}
              value={query[key]}
              onChange={({ target }) => onChange({ [key]: target.value })}
            >
              <option value="">all</option>
              {options.map(({ value, label: text }) => (
                <option key={value} value={value}>
                  {text}
                </option>
              ))}
            </Form.Select>
          )}
        </Field>
      ))}
      {linked
        .filter(([key]) => query[key] !== '')
        .map(([key, label]) => (
          <Button
            key={key}
            size="sm"
            variant="quiet"
            className="mb-2"
            onClick={() => onChange({ [key]: '' })}
          >
            {label}: {key === 'present' ? titleOf(query.present) : query[key]} ×
          </Button>
        ))}
      {filtered && (
        <Button
          size="sm"
          variant="quiet"
          className="mb-2"
          onClick={() => {
            setWords('');
            onClear();
          }}
        >
          Show all
        </Button>
      )}
    </div>
  );
}
