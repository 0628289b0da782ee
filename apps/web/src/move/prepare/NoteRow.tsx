import { Check, Circle } from 'lucide-react';
import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useMay } from '../../api/useSession';
import { useDraft } from '../../shell/useDraft';
import { useOpenMove } from '../MoveContext';

type NoteRowProps = {
  readonly title: string;
  readonly done: string | null;
  readonly onBack: (() => Promise<boolean>) | undefined;
  readonly children: ReactNode;
};

/** One thing to note: what is noted, or the fields to note it with. */
export function NoteRow({ title, done, onBack, children }: NoteRowProps) {
  const may = useMay();
  return (
    <li>
      <div className="d-flex gap-2 align-items-center">
        {done === null ? (
          <Circle size={15} aria-label="not noted" strokeDasharray="3 3" />
        ) : (
          <Check size={16} aria-label="noted" color="var(--go)" strokeWidth={3} />
        )}
        <strong className="flex-shrink-0">{title}</strong>
        {done !== null && <span>{done}</span>}
        {done !== null && onBack && (
          <button
            type="button"
            className="btn-plain small-print ms-auto no-print"
            onClick={() => void onBack()}
            aria-label={`Withdraw: ${title}`}
          >
            Withdraw
          </button>
        )}
      </div>
      {done === null && may.write && <div className="ms-4 mt-1 no-print">{children}</div>}
    </li>
  );
}

type WordsFormProps = {
  /** What each field is called; also its placeholder. */
  readonly labels: readonly string[];
  readonly type?: string;
  readonly disabled: boolean;
  readonly onKeep: (words: readonly string[]) => Promise<boolean>;
};

/** One or two words to note, side by side. */
export function WordsForm({ labels, type = 'text', disabled, onKeep }: WordsFormProps) {
  const { move } = useOpenMove();
  const [text, setText, forget] = useDraft(`${move.reference} ${labels.join(', ')}`);
  // One line a field: none of them holds a line break.
  const typed = text.split('\n');
  const words = labels.map((_label, index) => typed[index] ?? '');
  return (
    <form
      className="d-flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void onKeep(words).then((done) => done && forget());
      }}
    >
      {labels.map((label, index) => (
        <Form.Control
          key={label}
          size="sm"
          type={type}
          aria-label={label}
          placeholder={label}
          title={label}
          value={words[index] ?? ''}
          onChange={(event) =>
            setText(words.map((word, at) => (at === index ? event.target.value : word)).join('\n'))
          }
          disabled={disabled}
          required
        />
      ))}
      <Button size="sm" variant="quiet" type="submit" disabled={disabled}>
        Note
      </Button>
    </form>
  );
}
