import Form from 'react-bootstrap/Form';
import { useKeySwitch } from './keySwitch';

/** Switches single keys off, for whoever dictates or presses keys by accident. */
export function KeySwitch() {
  const [on, change] = useKeySwitch();
  return (
    <Form.Check
      id="single-keys"
      type="switch"
      checked={on}
      onChange={(event) => change(event.target.checked)}
      label="Single keys are commands in this browser"
    />
  );
}
