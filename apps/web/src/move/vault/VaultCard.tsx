import { api, SealedSchema, type Sealed, type SecretHead } from '@ulvane/contract';
import { brokenSentence, readJson } from '@ulvane/core/outcome';
import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { call, UnfitFile } from '../../api/call';
import { useMay } from '../../api/useSession';
import { Problem } from '../../shell/Problem';
import { useOpenMove } from '../MoveContext';
import { SecretDialog } from './SecretDialog';
import { PassphraseDialog } from './PassphraseDialog';
import { secretWords } from './words';
import { Day } from '../../shell/Instant';
import { textOfFile } from '../../shell/textOfFile';
import { useSecrets } from './useSecrets';

/** Licence keys, recovery keys and the like: sealed, shown for half a minute on request, each showing in the log. */
export function VaultCard() {
  const { move } = useOpenMove();
  const may = useMay();
  const params = { reference: move.reference };
  const { secrets, error, mutate, shown, show: reveal, hide } = useSecrets(move.reference);
  const [dialog, setDialog] = useState<'add' | 'seal' | { readonly file: File }>();
  const [refusal, setRefusal] = useState<unknown>();
  const input = useRef<HTMLInputElement>(null);

  const attempt = async (work: () => Promise<void>) => {
    setRefusal(undefined);
    try {
      await work();
    } catch (problem) {
      setRefusal(problem);
    }
  };
  const show = (secret: SecretHead) => attempt(() => reveal(secret));
  const remove = ({ id, label }: SecretHead) =>
    window.confirm(`Erase ${label} from the vault? It cannot be brought back.`)
      ? attempt(async () => {
          await mutate(await call(api.removeSecret, { params: { ...params, id } }), { revalidate: false });
        })
      : undefined;
  return (
    <section className="sheet">
      <div className="page-head">
        <h2>Keys and secrets</h2>
        <span className="soft">
          {secrets === undefined || secrets.length === 0 ? '' : `${secrets.length} in the vault`}
        </span>
        {may.write && (
          <Button size="sm" variant="quiet" className="ms-auto no-print" onClick={() => setDialog('add')}>
            Add a secret
          </Button>
        )}
      </div>
      <Problem error={error} />
      <Problem error={refusal} onClose={() => setRefusal(undefined)} />
      {secrets?.length === 0 && (
        <p className="empty mb-1">
          Nothing yet. What is kept here is encrypted, never in an export, and every look at it stands in the
          log.
        </p>
      )}
      <ul className="check-rows">
        {secrets?.map((secret) => (
          <li key={secret.id}>
            <strong>{secret.label}</strong> <span className="soft">{secretWords[secret.kind]}</span>{' '}
            {may.write && (
              <span className="no-print">
                {shown?.id === secret.id ? (
                  <button type="button" className="btn-plain" onClick={hide}>
                    Hide
                  </button>
                ) : (
                  <button
                    type="button"
                    className="btn-plain"
                    onClick={() => void show(secret)}
                    aria-label={`Show ${secret.label}`}
                  >
                    Show
                  </button>
                )}{' '}
                <button
                  type="button"
                  className="btn-plain"
                  onClick={() => void remove(secret)}
                  aria-label={`Erase ${secret.label}`}
                >
                  Erase
                </button>
              </span>
            )}
            {shown?.id === secret.id && (
              <p className="secret no-print" role="status">
                <span className="mono">{shown.value}</span>{' '}
                <span className="soft">hidden again in {shown.secondsLeft} s</span>
              </p>
            )}
            <div className="small-print">
              added by {secret.by}, <Day at={secret.at} />;{' '}
              {secret.showings === 0
                ? 'never shown'
                : `shown ${secret.showings === 1 ? 'once' : `${secret.showings} times`}, last to ${secret.lastShownTo ?? ''}`}
            </div>
          </li>
        ))}
      </ul>
      {may.write && (
        <div className="d-flex gap-2 no-print">
          {secrets !== undefined && secrets.length > 0 && (
            <button type="button" className="btn-plain" onClick={() => setDialog('seal')}>
              Write all to an encrypted file
            </button>
          )}
          <button type="button" className="btn-plain" onClick={() => input.current?.click()}>
            Import from an encrypted file
          </button>
          <input
            ref={input}
            type="file"
            className="visually-hidden"
            tabIndex={-1}
            aria-label="Encrypted file of secrets"
            onChange={({ target }) => {
              const [file] = target.files ?? [];
              if (file) setDialog({ file });
              target.value = '';
            }}
          />
        </div>
      )}
      {dialog === 'add' && (
        <SecretDialog
          onClose={() => setDialog(undefined)}
          onKeep={async (secret) => {
            await mutate(await call(api.addSecret, { params, body: secret }), { revalidate: false });
          }}
        />
      )}
      {dialog === 'seal' && (
        <PassphraseDialog
          title="Write all to an encrypted file"
          action="Write the file"
          fresh
          onClose={() => setDialog(undefined)}
          onGiven={async (passphrase) => {
            const sealed = await call(api.sealSecrets, { params, body: { passphrase } });
            download(`${move.reference}-secrets.json`, JSON.stringify(sealed));
          }}
        />
      )}
      {typeof dialog === 'object' && (
        <PassphraseDialog
          title={`Import from ${dialog.file.name}`}
          action="Import"
          onClose={() => setDialog(undefined)}
          onGiven={async (passphrase) => {
            const sealed = await sealedIn(dialog.file);
            await mutate(await call(api.unsealSecrets, { params, body: { passphrase, sealed } }), {
              revalidate: false,
            });
          }}
        />
      )}
    </section>
  );
}

async function sealedIn(file: File): Promise<Sealed> {
  const text = readJson(await textOfFile(file));
  if (!text.ok) throw new UnfitFile(brokenSentence(file.name, text.broken));
  const sealed = SealedSchema.safeParse(text.value);
  if (sealed.success) return sealed.data;
  throw new UnfitFile(`${file.name} holds no sealed secrets: choose the file that “Seal” saved.`);
}

function download(name: string, text: string): void {
  const address = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}
