import { sentencesOf } from '../api/call';

/** A refusal or a fault, said where it happened. */
export function Problem({ error, onClose }: { readonly error: unknown; readonly onClose?: () => void }) {
  if (error === undefined) return null;
  const sentences = sentencesOf(error);
  return (
    <div className="notice" role="alert">
      {sentences.length === 1 ? (
        sentences[0]
      ) : (
        <ul>
          {sentences.slice(0, 12).map((sentence) => (
            <li key={sentence}>{sentence}</li>
          ))}
          {sentences.length > 12 && <li>and {sentences.length - 12} more</li>}
        </ul>
      )}
      {onClose && (
        <>
          {' '}
          <button type="button" className="btn-plain" onClick={onClose}>
            Close
          </button>
        </>
      )}
    </div>
  );
}
