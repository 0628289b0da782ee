import { useHouse } from '../api/useHouse';
import { Problem } from './Problem';

/** Says once, on top of every view, why catalogue and house rules are not there: without them nothing is judged. */
export function HouseFault() {
  const { house, error } = useHouse();
  return house ? null : <Problem error={error} />;
}
