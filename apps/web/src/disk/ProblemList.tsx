import type { Problem } from '@ulvane/core/outcome';

/** Why something cannot be done, every reason. */
export function ProblemList({ problems }: { readonly problems: readonly Problem[] }) {
  if (problems.length === 0) return null;
  return (
    <div className="notice mt-2" role="alert">
      <ul className="mb-0">
        {problems.map(({ code, path, sentence }) => (
          <li key={`${code} ${path} ${sentence}`}>{sentence}</li>
        ))}
      </ul>
    </div>
  );
}
