import { createHash } from 'node:crypto';
import { api, FilesSchema, MoveViewSchema, type Endpoint, type MoveView } from '@ulvane/contract';
import type { DataSet } from '@ulvane/core/backup';
import { gibibyteBytes } from '@ulvane/core/quantity';
import { diskOfPlan, thingsToTell } from '@ulvane/core/record';
import { routes } from '@ulvane/core/route';
import { isSigned, type Step } from '@ulvane/core/runbook';
import { diskBytes } from '@ulvane/core/survey';
import { expect } from 'vitest';
import type { z } from 'zod';
import type { Visitor } from '../house';
import type { Case, Runbook } from './case';

const sha = (text: string) => createHash('sha256').update(text).digest('hex');

/** Three files of a data set, with contents of their own. */
function linesOf({ id }: DataSet): string {
  return ['first.txt', 'below/second.odt', 'below/third, last.jpg']
    .map((path) => {
      const content = `${id}: ${path}`;
      return `${JSON.stringify({ path, sizeBytes: Buffer.byteLength(content), sha256: sha(content), modifiedMs: null, trouble: null })}\n`;
    })
    .join('');
}

/** Carries one move from survey to hand-over through the API, as a technician and a lead would with the page. */
export class Journey {
  private view: MoveView | undefined;

  constructor(
    private readonly technician: Visitor,
    private readonly it: Case,
  ) {}

  get move(): MoveView['move'] {
    return this.current.move;
  }

  private get current(): MoveView {
    if (!this.view) throw new Error('the move has not begun');
    return this.view;
  }

  private get params(): { readonly reference: string } {
    return { reference: this.current.move.reference };
  }

  /** Sends a command with the version that was read last. */
  private async command<R extends z.ZodType>(
    entry: Endpoint<z.ZodType, z.ZodType, R>,
    body: object,
    params: Readonly<Record<string, string>> = {},
  ): Promise<void> {
    const { version } = this.current;
    this.view = MoveViewSchema.parse(
      await this.technician.call(entry, {
        params: { ...this.params, ...params },
        body: { version, ...body },
      }),
    );
  }

  /** Survey, wish, exceptions, and the way that was chosen. */
  async decide(): Promise<void> {
    const { survey, wish, rules = {}, choose } = this.it;
    this.view = await this.technician.call(api.addMove, {
      body: { owner: 'Crew room', site: 'Lowholm', dueOn: null, surveyText: JSON.stringify(survey) },
    });
    await this.command(api.stateWish, { wish: { until: null, ...wish } });
    for (const [setting, value] of Object.entries(rules))
      await this.command(api.depart, { setting, value, reason: 'As the owner’s work asks for it.' });
    const { options } = await this.technician.call(api.options, { params: this.params });
    const { routeId, releaseId } = choose;
    const option = options.find((one) => one.routeId === routeId && one.releaseId === releaseId);
    expect([routeId, releaseId, option?.status, refusals(option)]).toEqual([
      routeId,
      releaseId,
      'allowed',
      [],
    ]);
    await this.command(api.choose, { reason: 'As it was asked for.', ...choose });
  }

  /** What is saved, listed file by file, on two destinations; what is got ready; the runbook. */
  async prepare(): Promise<void> {
    const { sets, disk } = this.it;
    if (sets.length > 0) {
      await this.command(api.setDataSets, { dataSets: sets });
      const takes = sets.map(({ id }) => id);
      const shared = { capacityBytes: 2e12, freeBytes: 1.2e12, takes };
      await this.command(api.setDestinations, {
        destinations: [
          {
            id: 'b-07',
            name: 'B-07',
            kind: 'drive',
            serial: 'OSB-7731C',
            fileSystem: 'exfat',
            link: 'usb3',
            medium: 'spinning',
            ...shared,
          },
          {
            id: 'pier',
            name: 'Pier store',
            kind: 'share',
            serial: '',
            fileSystem: 'network',
            link: 'gigabit',
            medium: 'server',
            ...shared,
          },
        ],
      });
      for (const set of sets) await this.list(set, 'before', '');
    }
    await this.command(api.prepare, { preparation: this.preparation() });
    if (disk) await this.command(api.planDisk, disk);
    for (const capsule of this.it.capsules ?? []) await this.command(api.keepCapsule, capsule);
    await this.command(api.plan, {});
  }

  private preparation(): object {
    const { decision, facts } = this.move;
    const route = decision && routes[decision.routeId];
    const kept = { keptWhere: 'office safe' };
    return {
      stick: { name: 'S-03', serial: 'KST-C7' },
      ...this.it.layout,
      ...(this.it.licence ? { licence: { kind: this.it.licence, ...kept } } : {}),
      ...(facts.diskEncryption?.value === 'on' ? { recoveryKey: kept } : {}),
      ...(route?.consent.length
        ? { ownerConsent: { signer: 'Crew room', ...kept }, organisationConsent: { signer: 'Maud', ...kept } }
        : {}),
      ...(this.it.sets.length === 0 ? { nothingToSave: { statement: 'The disk is new.' } } : {}),
      ...(route?.hasTarget ? { passphrase: { keptWhere: 'the vault of this move' } } : {}),
      power: {},
      networkDriver: { how: 'On stick S-04, tried on a device of the same model' },
    };
  }

  runbook(): Promise<Runbook> {
    return this.technician.call(api.runbook, { params: this.params });
  }

  /** Signs every step in the order of the runbook, with what each asks for. @returns how many were signed by hand */
  async carryOut(): Promise<number> {
    let signed = 0;
    let before: string | undefined;
    for (;;) {
      const { runbook } = this.move.plan ?? {};
      const step = runbook?.steps.find(({ id }) => !isSigned(this.move.signatures, id));
      if (!runbook || !step) throw new Error('the hand-over is signed by nobody');
      // What was done for the step before has signed it.
      expect(step.id).not.toBe(before);
      before = step.id;
      if (step.kind === 'sign-off') return signed;
      if (step.kind === 'reconcile') await this.account();
      else if (step.kind === 'identify-disk') await this.identify();
      else if (step.effects.some(({ kind }) => kind === 'verified-copy')) await this.compare(step);
      else {
        const disk = diskOfPlan(this.move);
        const crossing =
          runbook.steps[runbook.lineIndex ?? -1] === step && disk?.serial !== undefined
            ? {
                serialEnd: disk.serial.slice(-4),
                sizeShown: Math.round((diskBytes(disk) / gibibyteBytes) * 10) / 10,
              }
            : null;
        await this.command(
          api.signStep,
          { actualMinutes: Math.max(1, Math.ceil(step.waiting.likely)), note: '', crossing },
          { stepId: step.id },
        );
        signed += 1;
      }
    }
  }

  /** Counts what came back, labels the backups, tells the owner, and has the owner sign. */
  async handOver(): Promise<void> {
    for (const { id, name } of this.move.destinations)
      await this.command(api.keepBackup, {
        destinationId: id,
        label: `${this.move.reference} on ${name}`,
        place: 'Shelf 2',
        keepUntil: '2026-04-10',
      });
    for (const { sentence } of thingsToTell(this.move))
      await this.command(api.tellOwner, { sentence, told: true });
    await this.command(api.signOff, { ownerName: 'Ebba Crew' });
    for (const paper of [api.handoverPdf, api.ownerPdf]) {
      const printed = await this.technician.at(paper, { params: this.params });
      expect([paper.path, printed.status, printed.status === 200 ? '' : printed.body]).toEqual([
        paper.path,
        200,
        '',
      ]);
    }
  }

  /** What stands on the label of the disk: with that the step signs itself. */
  private async identify(): Promise<void> {
    const disk = diskOfPlan(this.move);
    if (disk?.serial === undefined) throw new Error('no disk to identify');
    await this.command(api.prepare, {
      preparation: {
        diskMarks: {
          serialEnd: disk.serial.slice(-4),
          sizeGigabytes: Math.round(diskBytes(disk) / 1e8) / 10,
        },
      },
    });
  }

  private async compare({ effects }: Pick<Step, 'effects'>): Promise<void> {
    for (const effect of effects)
      if (effect.kind === 'verified-copy')
        for (const dataSetId of effect.dataSetIds) {
          const set = this.it.sets.find(({ id }) => id === dataSetId);
          if (!set) throw new Error(`no data set ${dataSetId}`);
          await this.list(set, 'copy', effect.destinationId);
          await this.command(api.compareCopy, { dataSetId, destinationId: effect.destinationId });
        }
  }

  private async account(): Promise<void> {
    for (const set of this.it.sets) {
      await this.list(set, 'after', '');
      await this.command(api.reconcile, { dataSetId: set.id });
    }
  }

  private async list(set: DataSet, role: string, destinationId: string): Promise<void> {
    const { move, version } = this.current;
    const query = new URLSearchParams({
      version: String(version),
      dataSetId: set.id,
      source: 'hashed',
      role,
      destinationId,
    });
    const answer = await this.technician.raw(
      'POST',
      `/moves/${move.reference}/file-lists?${query.toString()}`,
      linesOf(set),
      { 'content-type': 'application/x-ndjson' },
    );
    if (answer.status !== 200) throw new Error(JSON.stringify(answer.body));
    this.view = MoveViewSchema.parse(answer.body);
    if (role === 'before') {
      const { id } = this.move.fileLists.at(-1) ?? { id: '' };
      const stored = await this.technician.raw('GET', `/moves/${move.reference}/file-lists/${id}/files`);
      expect(FilesSchema.parse(stored.body).total).toBe(3);
    }
  }
}

/** What stands against an option, for the message of a test that fails. */
function refusals(
  option:
    { readonly reasons: readonly { readonly finding: string; readonly sentence: string }[] } | undefined,
) {
  return (option?.reasons ?? [])
    .filter(({ finding }) => finding !== 'allows')
    .map(({ sentence }) => sentence);
}
