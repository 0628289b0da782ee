import { ReasonDialog } from '../../shell/ReasonDialog';

type StepDialogProps = {
  /** Of the step, or of the gate. */
  readonly title: string;
  readonly error: unknown;
  readonly onGive: (reason: string) => Promise<boolean>;
  readonly onClose: () => void;
};

/** Withdraws a signature, with a reason. */
export function WithdrawDialog({ title, ...rest }: StepDialogProps) {
  return (
    <ReasonDialog
      title={`Withdraw: ${title}`}
      label="Why?"
      hint="The first signature and this reason both stay in the history."
      action="Withdraw"
      {...rest}
    />
  );
}

/** A lead opens a gate whose condition does not hold. */
export function OverruleDialog({ title, ...rest }: StepDialogProps) {
  return (
    <ReasonDialog
      title={`Overrule: ${title}`}
      label="Reason, in a sentence"
      hint="The gate opens although its condition does not hold. Your name and the reason stay in the log and on the hand-over sheet."
      action="Overrule the gate"
      {...rest}
    />
  );
}
