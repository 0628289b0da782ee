import { useState } from 'react';
import Modal from 'react-bootstrap/Modal';
import { KeySwitch } from './KeySwitch';
import { useKeys } from './useKeys';

const keys: readonly (readonly [key: string, what: string])[] = [
  ['?', 'this list'],
  ['N', 'go to the device that is next up'],
  ['T', 'Today'],
  ['F', 'Fleet'],
  ['C', 'Catalogue'],
  ['D', 'Drives'],
  ['M', 'Media shelf'],
  ['B', 'Disk bench'],
  ['H', 'House'],
  ['1 – 7', 'in a move: its seven stages'],
  ['L', 'in a move: its log'],
  ['S', 'in a runbook: to the next step that can be signed'],
  ['Esc', 'close a dialog'],
];

/** The keys, on `?`. */
export function KeyHelp() {
  const [open, setOpen] = useState(false);
  useKeys({ '?': () => setOpen(true) });
  return (
    <Modal show={open} onHide={() => setOpen(false)} aria-labelledby="keys-title">
      <Modal.Header closeButton>
        <Modal.Title id="keys-title" as="h2">
          Keys
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <table className="table">
          <tbody>
            {keys.map(([key, what]) => (
              <tr key={key}>
                <td>
                  <kbd>{key}</kbd>
                </td>
                <td>{what}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <KeySwitch />
      </Modal.Body>
    </Modal>
  );
}
