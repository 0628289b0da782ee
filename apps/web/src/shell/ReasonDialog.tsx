import { useDraft } from './useDraft';
import { FormDialog } from './FormDialog';
import { ReasonField } from './ReasonField';

type ReasonDialogProps = {
  readonly title: string;
  readonly label: string;
  readonly hint: string;
  readonly action: string;
  readonly error: unknown;
  readonly onGive: (reason: string) => Promise<boolean>;
  readonly onClose: () => void;
};

/** Asks for a written reason before something that the log keeps. */
export function ReasonDialog({ title, label, hint, action, error, onGive, onClose }: ReasonDialogProps) {
  const [reason, setReason, forget] = useDraft(`reason ${window.location.pathname} ${title}`);
  const close = () => {
    forget();
    onClose();
  };
  return (
    <FormDialog
      title={title}
      action={action}
      error={error}
      onSubmit={() => void onGive(reason).then((done) => done && close())}
      onClose={close}
    >
      <ReasonField label={label} hint={hint} value={reason} onValue={setReason} />
    </FormDialog>
  );
}
