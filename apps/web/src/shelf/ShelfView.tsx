import { api, type DriveView, type ImageView } from '@ulvane/contract';
import { findRelease } from '@ulvane/core/catalogue';
import { printCount } from '@ulvane/core/quantity';
import { useState, type KeyboardEvent, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import { useDropzone } from 'react-dropzone';
import { useSWRConfig } from 'swr';
import { call } from '../api/call';
import { keys } from '../api/keys';
import { useHouse } from '../api/useHouse';
import { useMay } from '../api/useSession';
import { DriveDialog } from '../drives/DriveDialog';
import { useFolderReading } from '../files/useFolderReading';
import { Loading } from '../shell/Loading';
import { Problem } from '../shell/Problem';
import { HashPanel } from './HashPanel';
import { ImageCard } from './ImageCard';
import { ImageDialog } from './ImageDialog';
import { Labels } from './Labels';
import { LinesPanel } from './LinesPanel';
import { MediumCard } from './MediumCard';
import { MediumDialog } from './MediumDialog';
import { NeedStrip } from './NeedStrip';
import { ShelfTable } from './ShelfTable';
import { servingsOf, useShelf } from './useShelf';

/** So many media stand on their boards; more of them are opened on request. */
const shownMedia = 18;

/** Installer media and images at hand: which of them the next moves can use, and what has to be done with them first. */
export function ShelfView() {
  const { shelf, error, mutate } = useShelf();
  const { house } = useHouse();
  const { mutate: refresh } = useSWRConfig();
  const may = useMay();
  const [opened, setOpened] = useState<DriveView>();
  const [adding, setAdding] = useState(false);
  const [image, setImage] = useState<ImageView>();
  const [file, setFile] = useState<File>();
  const [asTable, setAsTable] = useState(false);
  const [all, setAll] = useState(false);
  const [refusal, setRefusal] = useState<unknown>();
  const reading = useFolderReading();
  const take = ([dropped]: readonly File[]) => {
    if (!dropped) return;
    setFile(dropped);
    reading.start([
      { path: dropped.name, file: dropped, sizeBytes: dropped.size, modifiedMs: dropped.lastModified },
    ]);
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: false,
    disabled: !may.write,
    onDrop: take,
  });
  const kept = async () => {
    await mutate();
    await refresh(keys.drives);
  };
  const remove = async ({ id, version }: ImageView) => {
    setRefusal(undefined);
    try {
      await mutate(await call(api.removeImage, { params: { id }, body: { version } }), { revalidate: false });
    } catch (problem) {
      setRefusal(problem);
    }
  };
  if (!shelf || !house)
    return (
      <>
        <div className="page-head">
          <h1>Media shelf</h1>
        </div>
        <Problem error={error} />
        {error === undefined && <Loading what="the media shelf" />}
      </>
    );
  const { media, images } = shelf;
  const { catalogue } = house;
  const servings = servingsOf(shelf, catalogue);
  const sticks = media.filter(({ kind }) => kind === 'stick');
  const others = media.filter(({ kind }) => kind !== 'stick');
  const card = (medium: DriveView) => (
    <MediumCard key={medium.id} medium={medium} servings={servings} onOpen={() => setOpened(medium)} />
  );
  return (
    <div {...getRootProps({ className: `shelf${isDragActive ? ' over' : ''}` })}>
      <input {...getInputProps({ 'aria-label': 'Image file' })} />
      <div className="page-head">
        <h1>Media shelf</h1>
        <span className="soft">
          {printCount(sticks.length, 'stick')},{' '}
          {printCount(others.filter(({ kind }) => kind === 'disc').length, 'disc')},{' '}
          {printCount(others.filter(({ kind }) => kind !== 'disc').length, 'drive')},{' '}
          {printCount(images.length, 'image')}
        </span>
        <span className="ms-auto d-flex gap-2">
          <Button size="sm" variant="quiet" aria-pressed={asTable} onClick={() => setAsTable(!asTable)}>
            {asTable ? 'Show as a shelf' : 'Show as a table'}
          </Button>
          <Button size="sm" variant="quiet" onClick={() => window.print()}>
            Print labels
          </Button>
          {may.write && (
            <>
              <Button size="sm" variant="quiet" onClick={open}>
                Hash an image
              </Button>
              <Button size="sm" onClick={() => setAdding(true)}>
                Add a medium
              </Button>
            </>
          )}
        </span>
      </div>
      <Problem error={error} />
      <Problem error={refusal} onClose={() => setRefusal(undefined)} />
      <NeedStrip servings={servings} media={media} />
      {file && reading.run && reading.progress && (
        <HashPanel
          file={file}
          run={reading.run}
          progress={reading.progress}
          shelf={shelf}
          catalogue={catalogue}
          onAgain={() => take([file])}
          onKept={() => void kept()}
          onClose={() => {
            reading.forget();
            setFile(undefined);
          }}
        />
      )}
      {asTable ? (
        <ShelfTable shelf={shelf} servings={servings} catalogue={catalogue} />
      ) : (
        <>
          <h2 className="board-title">
            Sticks <span className="soft">dark gauge: in use</span>
          </h2>
          {sticks.length === 0 ? (
            <p className="empty">No stick is known. Plug one in and choose Add a medium.</p>
          ) : (
            <Board label="Sticks">{(all ? sticks : sticks.slice(0, shownMedia)).map(card)}</Board>
          )}
          {!all && sticks.length > shownMedia && (
            <Button variant="quiet" size="sm" onClick={() => setAll(true)}>
              Show all {sticks.length}
            </Button>
          )}
          <div className="shelf-halves">
            <section>
              <h2 className="board-title">
                Images at hand{' '}
                <span className="soft">{may.write && 'drop an image file anywhere on the page'}</span>
              </h2>
              {images.length === 0 ? (
                <p className="empty">
                  No image yet. Drop one here: its checksum is compared with the catalogue.
                </p>
              ) : (
                <Board label="Images at hand">
                  {images.map((one) => (
                    <ImageCard
                      key={one.id}
                      image={one}
                      release={findRelease(catalogue, one.releaseId)}
                      servings={servings}
                      onOpen={() => setImage(one)}
                    />
                  ))}
                </Board>
              )}
            </section>
            <section>
              <h2 className="board-title">
                Discs and drives <span className="soft">with an installer</span>
              </h2>
              {others.length === 0 ? (
                <p className="empty">No disc or drive for installers.</p>
              ) : (
                <Board label="Discs and drives">{others.map(card)}</Board>
              )}
            </section>
          </div>
        </>
      )}
      <LinesPanel house={house} images={images} />
      <Labels media={media} />
      {opened && (
        <MediumDialog
          medium={opened}
          catalogue={catalogue}
          images={images}
          onKept={() => void kept()}
          onClose={() => setOpened(undefined)}
        />
      )}
      {adding && (
        <DriveDialog
          drive={undefined}
          purpose="installer"
          onKept={() => void kept()}
          onClose={() => setAdding(false)}
        />
      )}
      {image && (
        <ImageDialog
          image={image}
          release={findRelease(catalogue, image.releaseId)}
          onRemove={() => void remove(image)}
          onClose={() => setImage(undefined)}
        />
      )}
    </div>
  );
}

/** A board: left and right go along it, up and down to the next one. */
function Board({ label, children }: { readonly label: string; readonly children: ReactNode }) {
  const move = (event: KeyboardEvent<HTMLUListElement>) => {
    const along = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const across = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const boards = [...document.querySelectorAll<HTMLElement>('.board')];
    const places = (board: HTMLElement | undefined) => [
      ...(board?.querySelectorAll<HTMLElement>(':scope > li > button') ?? []),
    ];
    const own = places(event.currentTarget);
    const at = own.findIndex((one) => one === document.activeElement);
    const next =
      along !== undefined
        ? own[at + along]
        : across !== undefined
          ? places(boards[boards.indexOf(event.currentTarget) + across])[0]
          : undefined;
    if (!next) return;
    event.preventDefault();
    next.focus();
  };
  return (
    <ul className="board" aria-label={label} onKeyDown={move}>
      {children}
    </ul>
  );
}
