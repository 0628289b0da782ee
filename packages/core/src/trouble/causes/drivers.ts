import { systemOf, type Machine } from '../../machine/state';
import type { CausesOf } from '../cause';
import { act } from '../stops';

/** Signs of drivers and updates. */

export const deviceUnknown: CausesOf = ({ machine }) => {
  const carried = machine.notes.includes('driver-at-hand');
  const target = systemOf(machine, 'target');
  const fit =
    target?.setUp === true && (target.networkDriver || carried)
      ? { operators: [{ op: 'fit-drivers', carried: !target.networkDriver }] as const }
      : {};
  return [
    {
      id: 'driver-from-service',
      title: 'Its driver comes by the update service, and was not looked for yet',
      likelihood: 3,
      because: 'The service lists drivers among its optional updates.',
      check: { what: 'Look for optional updates of kind driver.', minutes: 3 },
      remedy: {
        title: 'Install it from the update service',
        stops: [
          act(
            'Install the drivers that the update service offers, and restart',
            'They are made for this hardware.',
            'No device is marked unknown.',
            3,
            { waiting: 8, ...fit },
          ),
        ],
      },
    },
    {
      id: 'driver-from-maker',
      title: 'Its driver comes from the maker only',
      likelihood: carried ? 3 : 2,
      because: carried ? 'A second stick with drivers was prepared.' : 'Its hardware number names the maker.',
      check: { what: 'Read the hardware number of the unknown device.', minutes: 2 },
      remedy: {
        title: 'Install the maker’s driver',
        stops: [
          act(
            'Install the driver from the maker’s page for this model, or from the second stick',
            'By the hardware number; one for another model may do harm.',
            'No device is marked unknown.',
            8,
            {
              waiting: 3,
              undo: 'Remove the driver, and restart.',
              ...fit,
            },
          ),
        ],
      },
    },
  ];
};

export const patchUndone: CausesOf = (context) => {
  const target = systemOf(context.machine, 'target');
  const patched = context.machine.notes.includes('drivers-patched');
  return [
    {
      id: 'update-after-patch',
      title: 'An update put the maker’s plain drivers back',
      likelihood: patched ? 4 : 2,
      because: patched
        ? 'The patch was applied; every update of the system undoes it.'
        : 'The patch comes in a later step, after all updates.',
      check: { what: 'Is the day of the last update later than that of the patch?', minutes: 2 },
      ...(patched
        ? {
            really: (planned: Machine) => ({
              ...planned,
              notes: planned.notes.filter((note) => note !== 'drivers-patched'),
            }),
          }
        : {}),
      remedy: {
        title: 'Apply the patch again, and switch automatic updates off',
        stops: [
          act(
            'Apply the driver patch again, and restart',
            'With the tool that applied it first.',
            'Graphics, wireless and sound work again.',
            8,
            {
              waiting: 4,
              ...(target?.updated === true ? { operators: [{ op: 'patch-drivers' }] as const } : {}),
            },
          ),
          act(
            'Switch automatic updates off',
            'Else the next one undoes the patch again.',
            'The page says that updates are started by hand.',
            2,
          ),
        ],
      },
    },
  ];
};

export const updateNeverEnds: CausesOf = () => [
  {
    id: 'update-still-works',
    title: 'It is at work, and the figure does not move',
    likelihood: 3,
    because: 'The first updates of a new system may take an hour on a slow disk.',
    check: { what: 'Does the disk’s light blink? Wait for thirty minutes.', minutes: 30 },
    remedy: {
      title: 'Wait',
      stops: [
        act(
          'Wait, on the charger, and do not switch off',
          'An interrupted update is rolled back at the next start, which takes longer.',
          'The update ends, or says why not.',
          1,
          { waiting: 45 },
        ),
      ],
    },
  },
  {
    id: 'update-cache-damaged',
    title: 'What was downloaded is damaged',
    likelihood: 2,
    because: 'Then the same update fails at the same figure each time.',
    check: { what: 'Does its history show the same update as failed twice?', minutes: 2 },
    remedy: {
      title: 'Remove the downloads, and look again',
      stops: [
        act(
          'Stop the update service, remove its downloads, restart, and look for updates',
          'They are fetched anew.',
          'The update is installed.',
          5,
          { waiting: 25 },
        ),
      ],
    },
  },
  {
    id: 'no-room-for-update',
    title: 'The system partition is full',
    likelihood: 1,
    because: 'An update needs room for itself and for its way back.',
    check: { what: 'How much is free on the system partition?', minutes: 1 },
    remedy: {
      title: 'Make room',
      stops: [
        act(
          'Remove what the system’s own clean-up offers, but no personal files',
          'Nothing of the owner’s is removed.',
          'Ten gigabytes are free.',
          6,
          { waiting: 5 },
        ),
      ],
    },
  },
];
