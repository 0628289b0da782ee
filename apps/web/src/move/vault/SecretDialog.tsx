import { zodResolver } from '@hookform/resolvers/zod';
import { secretKinds, type Secret } from '@ulvane/core/record';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { Field } from '../../shell/Field';
import { FormDialog } from '../../shell/FormDialog';
import { nameField } from '../../shell/formFields';
import { secretWords } from './words';

type SecretDialogProps = {
  readonly onKeep: (secret: Secret) => Promise<void>;
  readonly onClose: () => void;
};

const SecretFormSchema = z.object({
  kind: z.enum(secretKinds),
  label: nameField,
  value: z.string().min(1, 'Enter the secret.'),
});

/** Types one secret for the vault. */
export function SecretDialog({ onKeep, onClose }: SecretDialogProps) {
  const [error, setError] = useState<unknown>();
  const { register, handleSubmit, formState } = useForm<Secret>({
    resolver: zodResolver(SecretFormSchema),
    defaultValues: { kind: 'recovery-key', label: '', value: '' },
  });
  const submit = handleSubmit(async (secret) => {
    setError(undefined);
    try {
      await onKeep(secret);
      onClose();
    } catch (problem) {
      setError(problem);
    }
  });
  return (
    <FormDialog
      title="Add a secret to the vault"
      action="Add"
      error={error}
      busy={formState.isSubmitting}
      onSubmit={() => void submit()}
      onClose={onClose}
    >
      <p className="caution">
        passwords only with the owner’s consent and present. What is written here is encrypted before it is
        stored.
      </p>
      <Field label="What it is">
        {(ids) => (
          <Form.Select {...ids} {...register('kind')}>
            {secretKinds.map((kind) => (
              <option key={kind} value={kind}>
                {secretWords[kind]}
              </option>
            ))}
          </Form.Select>
        )}
      </Field>
      <Field label="Name" hint="Recovery key of the system disk" error={formState.errors.label?.message}>
        {(ids) => <Form.Control {...ids} autoFocus maxLength={100} {...register('label')} />}
      </Field>
      <Field label="The secret" error={formState.errors.value?.message}>
        {(ids) => (
          <Form.Control
            {...ids}
            className="mono"
            autoComplete="off"
            spellCheck={false}
            maxLength={8000}
            {...register('value')}
          />
        )}
      </Field>
    </FormDialog>
  );
}
