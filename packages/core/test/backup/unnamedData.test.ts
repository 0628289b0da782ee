import { describe, expect, it } from 'vitest';
import { checklistOf } from '../../src/backup';
import { answerChecklist } from '../../src/record';
import type { DataSet } from '../../src/backup';
import { catalogue, documents, done, laptop, laptopWith, splitDisk, technician } from '../fixtures/shop';
import { saved } from '../fixtures/story';

const nobody = { notNeeded: [], askedOwner: [] };
const partitionsAsked = (sets: readonly DataSet[], facts = laptop) =>
  checklistOf(facts, catalogue, sets, nobody)
    .filter(({ data }) => data !== undefined)
    .map(({ id, name, state, data }) => ({ id, name, state, ...data }));

/** On the data partition, which is opened at /media/data. */
const onData: DataSet = { ...documents, path: '/media/data/Pictures', place: 'data-partition' };

describe('data that no data set names', () => {
  it('is asked about with its bytes, before what is often forgotten', () => {
    // DATA holds 60 GB, and the only data set is on the system partition.
    expect(partitionsAsked([{ ...documents, path: '/home/crew' }])).toEqual([
      {
        id: 'partition-4-hx7714a9c2e',
        name: 'DATA on …9C2E, 60.0 GB',
        state: 'open',
        place: 'data-partition',
        path: '/media/data',
        sizeBytes: 60_000_000_000,
      },
    ]);
    expect(checklistOf(laptop, catalogue, [], nobody)[0]?.id).toBe('partition-4-hx7714a9c2e');
  });

  it('is not asked about where a data set has its path, or says that it lies there', () => {
    expect(partitionsAsked([onData])).toEqual([]);
    expect(partitionsAsked([{ ...onData, path: '' }])).toEqual([]);
    // Where nobody knows at which path it is opened, the place of a data set is all there is.
    const [efi, reserved, system, data] = splitDisk.partitions;
    if (!efi || !reserved || !system || !data) throw new Error('the bench disk has four');
    const { mountedAt: _mountedAt, ...closed } = data;
    const facts = laptopWith({ disks: [{ ...splitDisk, partitions: [efi, reserved, system, closed] }] });
    expect(partitionsAsked([{ ...onData, path: 'D:/Pictures' }], facts)).toEqual([]);
    expect(partitionsAsked([{ ...documents, path: 'C:/Documents' }], facts)).toHaveLength(1);
  });

  it('is asked about on another disk that is fixed, and on none that is empty or pulled out again', () => {
    const other = (change: object) =>
      laptopWith({
        disks: [
          splitDisk,
          {
            ...splitDisk,
            name: 'sdb',
            serial: 'PH-77A0C31',
            partitions: [{ number: 1, startLba: 2048, sectorCount: 400_000_000, usedBytes: 150e9 }],
            ...change,
          },
        ],
      });
    expect(partitionsAsked([onData], other({})).map(({ name, place }) => [name, place])).toEqual([
      ['Partition 1 on …0C31, 150.0 GB', 'other-disk'],
    ]);
    expect(partitionsAsked([onData], other({ removable: true, bus: 'usb' }))).toEqual([]);
    expect(partitionsAsked([onData], other({ partitions: [] }))).toEqual([]);
  });

  it('keeps its answer with the disk that it was given for, when the disks change their names', () => {
    const other = {
      ...splitDisk,
      name: 'sdb',
      serial: 'PH-77A0C31',
      partitions: [{ number: 4, startLba: 2048, sectorCount: 400_000_000, usedBytes: 150e9 }],
    };
    const answered = (one: string, two: string) =>
      checklistOf(
        laptopWith({
          disks: [
            { ...splitDisk, name: one },
            { ...other, name: two },
          ],
        }),
        catalogue,
        [{ ...documents, path: '/home/crew' }],
        {
          ...nobody,
          notNeeded: [{ id: 'partition-4-ph-77a0c31', reason: '', at: technician.now, by: 'Ines' }],
        },
      ).flatMap(({ data, name, state }) => (data ? [[name, state]] : []));
    expect(answered('sda', 'sdb')).toEqual([
      ['DATA on …9C2E, 60.0 GB', 'open'],
      ['Partition 4 on …0C31, 150.0 GB', 'not-needed'],
    ]);
    expect(answered('sdb', 'sda')).toEqual(answered('sda', 'sdb'));
  });

  it('is answered like any other line, and stays answered', () => {
    const move = { ...saved(), dataSets: [{ ...documents, path: '/home/crew' }] };
    const answered = done(
      answerChecklist(
        move,
        [{ id: 'partition-4-hx7714a9c2e', answer: 'none', reason: 'games, says the owner' }],
        technician,
      ),
    );
    const line = checklistOf(answered.facts, catalogue, answered.dataSets, answered)[0];
    expect(line).toMatchObject({ id: 'partition-4-hx7714a9c2e', state: 'not-needed' });
    // As a data set of its own it is listed, whatever it was called then.
    const set = { ...onData, id: 'partition-4-hx7714a9c2e', path: '/media/data' };
    expect(partitionsAsked([set]).map(({ state }) => state)).toEqual(['listed']);
  });
});
