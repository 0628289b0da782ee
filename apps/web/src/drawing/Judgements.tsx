import type { Judgement } from '@ulvane/core/assess';
import { VerdictSign } from './verdicts';

/** Requirement by requirement, with what to do about it. */
export function Judgements({ judgements }: { readonly judgements: readonly Judgement[] }) {
  return (
    <ul className="reasons">
      {judgements.map((judgement) => (
        <li key={judgement.rule}>
          <VerdictSign verdict={judgement.verdict} short />
          <span>
            {judgement.sentence}
            {judgement.fix && (
              <span className="soft">
                {' '}
                {judgement.fix.action}: {judgement.fix.handsOnMinutes} min
                {judgement.fix.cost > 0 && `, about ${judgement.fix.cost}`}.
              </span>
            )}
            {judgement.consequence && <span className="soft"> Skipping it: {judgement.consequence}</span>}
            {judgement.howToFind && <span className="soft"> To find out: {judgement.howToFind}</span>}
          </span>
        </li>
      ))}
    </ul>
  );
}
