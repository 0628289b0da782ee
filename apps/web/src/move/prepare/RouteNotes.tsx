import type { api } from '@ulvane/contract';
import type { RouteDefinition } from '@ulvane/core/route';
import { isolationIds, isolationTexts, type Preparation } from '@ulvane/core/runbook';
import Form from 'react-bootstrap/Form';
import type { z } from 'zod';
import { useOpenMove } from '../MoveContext';
import { NoteRow, WordsForm } from './NoteRow';

type Patch = z.input<typeof api.prepare.body>['preparation'];

/** A note that is one or several typed lines. */
type LineNote = {
  readonly key: 'ownerConsent' | 'organisationConsent' | 'replacement' | 'dataMoved' | 'wipe' | 'disposal';
  readonly title: string;
  readonly labels: readonly string[];
  readonly concerns: (route: RouteDefinition) => boolean;
  readonly patch: (words: readonly string[]) => Patch;
  readonly said: (preparation: Preparation) => string | null;
};

const replaces = (route: RouteDefinition) => route.id === 'replace';

/** What single routes need noted; adding one is adding its entry here. */
const lineNotes: readonly LineNote[] = [
  {
    key: 'ownerConsent',
    title: 'Owner’s consent in writing',
    labels: ['Who signed', 'Where the paper is kept'],
    concerns: (route) => route.consent.includes('owner'),
    patch: ([signer = '', keptWhere = '']) => ({ ownerConsent: { signer, keptWhere } }),
    said: ({ ownerConsent: it }) => it && `${it.signer}, ${it.keptWhere}`,
  },
  {
    key: 'organisationConsent',
    title: 'Organisation’s consent in writing',
    labels: ['Who signed', 'Where the paper is kept'],
    concerns: (route) => route.consent.includes('organisation'),
    patch: ([signer = '', keptWhere = '']) => ({ organisationConsent: { signer, keptWhere } }),
    said: ({ organisationConsent: it }) => it && `${it.signer}, ${it.keptWhere}`,
  },
  {
    key: 'replacement',
    title: 'New device',
    labels: ['Maker', 'Model', 'Serial'],
    concerns: replaces,
    patch: ([maker = '', model = '', serial = '']) => ({ replacement: { maker, model, serial } }),
    said: ({ replacement: it }) => it && `${it.maker} ${it.model}, ${it.serial}`,
  },
  {
    key: 'dataMoved',
    title: 'Data is on the new device',
    labels: ['How it was compared'],
    concerns: replaces,
    patch: ([statement = '']) => ({ dataMoved: { statement } }),
    said: ({ dataMoved: it }) => it && it.statement,
  },
  {
    key: 'wipe',
    title: 'Wipe of the old disk',
    labels: ['By which method'],
    concerns: replaces,
    patch: ([method = '']) => ({ wipe: { method } }),
    said: ({ wipe: it }) => it && it.method,
  },
  {
    key: 'disposal',
    title: 'Disposal, by local rules',
    labels: ['Who takes it, and how'],
    concerns: replaces,
    patch: ([how = '']) => ({ disposal: { how } }),
    said: ({ disposal: it }) => it && it.how,
  },
];

type RouteNotesProps = {
  readonly route: RouteDefinition;
  readonly editable: boolean;
  readonly note: (patch: Patch) => Promise<boolean>;
  readonly stamp: (mark: { readonly by: string; readonly at: string }) => string;
};

/** What only the chosen route needs noted: consent, the isolation list, the device that takes over. */
export function RouteNotes({ route, editable, note, stamp }: RouteNotesProps) {
  const { move } = useOpenMove();
  const { preparation } = move;
  const done = preparation.isolation?.done ?? [];
  return (
    <>
      {lineNotes
        .filter(({ concerns }) => concerns(route))
        .map(({ key, title, labels, patch, said }) => {
          const mark = preparation[key];
          return (
            <NoteRow
              key={key}
              title={title}
              done={mark && `${said(preparation) ?? ''} (${stamp(mark)})`}
              onBack={editable ? () => note({ [key]: null }) : undefined}
            >
              <WordsForm labels={labels} disabled={!editable} onKeep={(words) => note(patch(words))} />
            </NoteRow>
          );
        })}
      {route.id === 'hold' && (
        <li>
          <fieldset disabled={!editable}>
            <legend className="h3 mb-1">
              Isolation list, {done.length} of {isolationIds.length}
              {preparation.isolation && (
                <span className="small-print"> last by {stamp(preparation.isolation)}</span>
              )}
            </legend>
            {isolationIds.map((id) => (
              <Form.Check
                key={id}
                id={`isolation-${id}`}
                checked={done.includes(id)}
                onChange={({ target }) =>
                  void note({
                    isolation: {
                      done: isolationIds.filter((one) => (one === id ? target.checked : done.includes(one))),
                    },
                  })
                }
                label={isolationTexts[id]}
              />
            ))}
          </fieldset>
        </li>
      )}
    </>
  );
}
