import { api } from '@ulvane/contract';
import { printBytes } from '@ulvane/core/quantity';
import { importMove, moveLimitBytes } from '@ulvane/core/record';
import { brokenSentence, readJson } from '@ulvane/core/outcome';
import { useState } from 'react';
import Modal from 'react-bootstrap/Modal';
import { useNavigate } from 'react-router';
import { DropPlace } from '../shell/DropPlace';
import { call } from '../api/call';
import { Problem } from '../shell/Problem';
import { textOfFile } from '../shell/textOfFile';

/** Imports a move that another Ulvane exported. */
export function ImportMove({ onClose }: { readonly onClose: () => void }) {
  const navigate = useNavigate();
  const [error, setError] = useState<unknown>();
  const [unfit, setUnfit] = useState<readonly string[]>([]);

  const read = async (file: File) => {
    setError(undefined);
    setUnfit([]);
    if (file.size > moveLimitBytes)
      return setUnfit([
        `${file.name} is larger than an exported move (${printBytes(moveLimitBytes, 'binary')}).`,
      ]);
    const text = readJson(await textOfFile(file));
    if (!text.ok) return setUnfit([brokenSentence(file.name, text.broken)]);
    const json = text.value;
    const document = importMove(json);
    if (!document.ok) return setUnfit(document.problems.slice(0, 8).map(({ sentence }) => sentence));
    try {
      const { move } = await call(api.importMove, { body: document.value });
      await navigate(`/moves/${move.reference}`);
    } catch (problem) {
      setError(problem);
    }
  };

  return (
    <Modal show onHide={onClose} aria-labelledby="import-move">
      <Modal.Header closeButton>
        <Modal.Title id="import-move" as="h2">
          Import a move
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <DropPlace
          label="Move file"
          title="Drop an exported move here"
          pick="Pick a file"
          onFiles={([file]) => void (file && read(file))}
        >
          <p className="small-print mb-0 mt-1">
            The move comes in whole, with its log. One that is here already is refused.
          </p>
        </DropPlace>
        <div className="mt-2">
          <Problem error={error} />
          {unfit.length > 0 && (
            <div className="notice" role="alert">
              <ul>
                {unfit.map((sentence) => (
                  <li key={sentence}>{sentence}</li>
                ))}
              </ul>
            </div>
          )}
        </div>
      </Modal.Body>
    </Modal>
  );
}
