import type { ImageView } from '@ulvane/contract';
import { releaseTitle, type Release } from '@ulvane/core/catalogue';
import { judgeImage, type Serving } from '@ulvane/core/media';
import { printBytes } from '@ulvane/core/quantity';
import { ProofMark } from '../drawing/ProofMark';

type ImageCardProps = {
  readonly image: ImageView;
  readonly release: Release | undefined;
  readonly servings: readonly Serving[];
  readonly onOpen: () => void;
};

const marks = {
  good: 'compared',
  'not-compared': 'stated',
  differs: 'differs',
  'not-in-catalogue': 'stated',
} as const;

const signatureWords = {
  agrees: 'signature agrees',
  differs: 'signature differs',
  'not-checked': 'signature not checked',
  'none-published': 'no signature is published',
} as const;

/** An image as an index card, its bytes on the tab. */
export function ImageCard({ image, release, servings, onOpen }: ImageCardProps) {
  const finding = judgeImage(image, release);
  const wanted = [
    ...new Set(
      servings
        .filter(({ need, content }) => content === null && need.releaseId === image.releaseId)
        .map(({ need }) => need.reference),
    ),
  ];
  return (
    <li className="medium-place">
      <button type="button" className="image-card" onClick={onOpen}>
        <span className="image-tab">{printBytes(image.bytes, 'decimal')}</span>
        <strong className="medium-title">{release ? releaseTitle(release) : image.releaseId}</strong>
        <span>
          {release && `${release.wordBits}-bit, `}
          {image.language}
        </span>
        <span>
          fetched {image.fetchedOn}, {image.by}
        </span>
        <span>{image.keptWhere}</span>
        <span>{signatureWords[image.signature]}</span>
        <span className="medium-grade">
          <ProofMark mark={marks[finding.state]} label="" />{' '}
          <strong>
            {finding.groupsAgree === null ? 'not compared' : `${finding.groupsAgree} of 16 groups`}
          </strong>
        </span>
        {finding.state !== 'good' && <strong className="care">{finding.sentence}</strong>}
      </button>
      <span
        className={`medium-tag ${wanted.length === 0 ? 'free' : finding.state === 'good' ? 'ready' : 'task'}`}
      >
        <strong>{wanted.length === 0 ? 'No move waits for it' : wanted.slice(0, 3).join(', ')}</strong>
        <span>
          {wanted.length === 0
            ? 'kept'
            : finding.state === 'good'
              ? 'ready to be written'
              : 'waits for a good image'}
        </span>
      </span>
    </li>
  );
}
