import { api } from '@ulvane/contract';
import { listOf, type DataSet } from '@ulvane/core/backup';
import type { Move } from '@ulvane/core/record';
import { addressOf } from '../../api/call';
import type { Listed } from '../../workers/files.worker';

/** A data set with the address of its list, for the worker. */
export function listedOf(move: Move, dataSet: DataSet, copies: number): Listed {
  const list = listOf(move.fileLists, dataSet, 'before');
  return {
    dataSet,
    copies,
    address: list
      ? addressOf(api.exportFileList, {
          params: { reference: move.reference, listId: list.id },
          query: { format: 'lines' },
        })
      : null,
  };
}
