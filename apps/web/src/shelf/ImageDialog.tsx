import { type ImageView } from '@ulvane/contract';
import { releaseTitle, type Release } from '@ulvane/core/catalogue';
import { judgeImage } from '@ulvane/core/media';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import { useMay } from '../api/useSession';

/** One image: where it is from, and how it agrees with what is published. */
export function ImageDialog({
  image,
  release,
  onRemove,
  onClose,
}: {
  readonly image: ImageView;
  readonly release: Release | undefined;
  readonly onRemove: () => void;
  readonly onClose: () => void;
}) {
  const may = useMay();
  const name = release ? releaseTitle(release) : image.releaseId;
  return (
    <Modal show onHide={onClose} aria-labelledby="image-title">
      <Modal.Header closeButton>
        <Modal.Title id="image-title" as="h2">
          {name}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>{judgeImage(image, release).sentence}</p>
        <dl className="facts-list">
          <dt>Bytes</dt>
          <dd>{image.bytes.toLocaleString('en')}</dd>
          <dt>SHA-256</dt>
          <dd className="mono text-break">{image.sha256 ?? 'not calculated'}</dd>
          <dt>Published</dt>
          <dd className="mono text-break">{release?.imageSha256 ?? 'not in the catalogue'}</dd>
          <dt>Kept where</dt>
          <dd>{image.keptWhere}</dd>
          <dt>Source</dt>
          <dd className="text-break">{image.source === '' ? 'not noted' : image.source}</dd>
          <dt>Other sources</dt>
          <dd className="text-break">
            {release?.imageSources.filter((one) => one !== image.source).join(', ') || 'none listed'}
          </dd>
        </dl>
      </Modal.Body>
      <Modal.Footer>
        {may.write && (
          <Button
            variant="quiet"
            onClick={() => {
              if (!window.confirm(`Remove ${name} from the shelf? The file itself is not touched.`)) return;
              onRemove();
              onClose();
            }}
          >
            Remove from the shelf
          </Button>
        )}
        <Button onClick={onClose}>Close</Button>
      </Modal.Footer>
    </Modal>
  );
}
