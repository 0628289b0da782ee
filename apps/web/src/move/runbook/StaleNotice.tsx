import type { PlanDifference } from '@ulvane/core/runbook';
import Button from 'react-bootstrap/Button';

/** Says that the plan no longer fits what is known, and what differs. */
export function StaleNotice({
  differences,
  onPlan,
}: {
  readonly differences: readonly PlanDifference[];
  readonly onPlan: (() => void) | undefined;
}) {
  if (differences.length === 0) return null;
  return (
    <section className="notice" aria-label="The plan is stale">
      <strong>The plan is stale.</strong> Something has changed since it was made; signed steps stay signed
      when it is made again.
      <ul>
        {differences.slice(0, 8).map(({ stepId, sentence }) => (
          <li key={stepId + sentence}>{sentence}</li>
        ))}
        {differences.length > 8 && <li>and {differences.length - 8} more</li>}
      </ul>
      {onPlan && (
        <Button size="sm" className="mt-2" onClick={onPlan}>
          Make the plan again
        </Button>
      )}
    </section>
  );
}
