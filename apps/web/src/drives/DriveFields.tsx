import { linkClasses, mediumClasses } from '@ulvane/core/backup';
import { fileSystems } from '@ulvane/core/catalogue';
import type { UseFormRegisterReturn } from 'react-hook-form';
import { HalfChoice } from '../shell/fields';
import { clusterChoices, linkNames, mediumNames } from './words';

type Name = 'fileSystem' | 'cluster' | 'link' | 'medium';

/** What says how a drive is formatted and how fast it is: in the inventory, and of a destination. */
export function DriveFields({ register }: { readonly register: (name: Name) => UseFormRegisterReturn }) {
  return (
    <>
      <HalfChoice
        label="File system"
        of={register('fileSystem')}
        options={fileSystems.map(({ id, name }) => [id, name])}
      />
      <HalfChoice label="Cluster size" of={register('cluster')} options={clusterChoices} />
      <HalfChoice
        label="Link"
        of={register('link')}
        options={linkClasses.map((link) => [link, linkNames[link]])}
      />
      <HalfChoice
        label="Medium"
        of={register('medium')}
        options={mediumClasses.map((medium) => [medium, mediumNames[medium]])}
      />
    </>
  );
}
