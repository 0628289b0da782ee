import { api, type SurveyPreview } from '@ulvane/contract';
import { surveyLimitBytes } from '@ulvane/core/survey';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { DropPlace } from '../shell/DropPlace';
import { addressOf, call } from '../api/call';
import { Field } from '../shell/Field';
import { Problem } from '../shell/Problem';
import { PreviewDialog } from './PreviewDialog';
import { textOfFile } from '../shell/textOfFile';

type Intake = { readonly text: string; readonly preview: SurveyPreview };

type SurveyIntakeProps = {
  /** The move that the survey is for; null: a device that may be new. */
  readonly reference: string | null;
  /** Takes the survey; resolves to whether that was done. */
  readonly onTake: (intake: Intake) => Promise<boolean>;
};

/** Imports a survey by drop, file picker or paste, and shows what it would change before it is taken. */
export function SurveyIntake({ reference, onTake }: SurveyIntakeProps) {
  const [error, setError] = useState<unknown>();
  const [tooLarge, setTooLarge] = useState<string>();
  const [pasting, setPasting] = useState(false);
  const [pasted, setPasted] = useState('');
  const [intake, setIntake] = useState<Intake>();

  const read = async (text: string) => {
    setError(undefined);
    setTooLarge(undefined);
    try {
      setIntake({ text, preview: await call(api.previewSurvey, { body: { text, reference } }) });
    } catch (problem) {
      setError(problem);
    }
  };

  const pick = ([file]: readonly File[]) => {
    if (!file) return;
    if (file.size > surveyLimitBytes)
      setTooLarge(
        `${file.name} has ${(file.size / 1024 ** 2).toFixed(1)} MiB; a survey has at most 1 MiB. Is it the right file?`,
      );
    else void textOfFile(file).then(read, setError);
  };

  return (
    <DropPlace
      label="Survey file"
      title="Drop a survey file here"
      pick="Pick a file"
      onFiles={pick}
      beside={
        <>
          <Button size="sm" variant="quiet" onClick={() => setPasting(!pasting)} aria-expanded={pasting}>
            Paste it
          </Button>
          <a className="small-print" href={addressOf(api.collector)} download>
            Download the collector
          </a>
        </>
      }
    >
      <p className="small-print mb-0 mt-1">
        Run <span className="mono">sh ulvane-survey.sh &gt; survey.json</span> on the device, from any live
        rescue stick. It reads only, and needs no root.
      </p>
      {pasting && (
        <div className="mt-2">
          <Field label="The survey’s text">
            {(ids) => (
              <Form.Control
                {...ids}
                as="textarea"
                rows={5}
                className="mono"
                value={pasted}
                onChange={(event) => setPasted(event.target.value)}
              />
            )}
          </Field>
          <Button size="sm" onClick={() => void read(pasted)}>
            Read it
          </Button>
        </div>
      )}
      {tooLarge !== undefined && (
        <div className="notice mt-2 mb-0" role="alert">
          {tooLarge}
        </div>
      )}
      {error !== undefined && (
        <div className="mt-2">
          <Problem error={error} onClose={() => setError(undefined)} />
        </div>
      )}
      {intake && (
        <PreviewDialog
          preview={intake.preview}
          isNew={reference === null}
          onClose={() => setIntake(undefined)}
          onTake={async () => {
            if (await onTake(intake)) {
              setIntake(undefined);
              setPasting(false);
              setPasted('');
            }
          }}
        />
      )}
    </DropPlace>
  );
}
