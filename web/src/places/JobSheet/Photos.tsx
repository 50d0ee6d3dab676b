import { at } from "../../api/base";
import { Camera, ImagePlus, X } from "lucide-react";
import { useRef, useState } from "react";
import type { JobSheet, Schemas } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Button } from "../../parts/Button";
import { telling } from "../../parts/told";
import { ago } from "../../parts/words";
import type { Photos as Adding } from "./usePhotos";

/** Pictures of the machine and of the proof of purchase; taken, chosen, or dropped anywhere on the sheet. */
export function Photos({ job, actions, photos }: { job: JobSheet; actions: JobActions; photos: Adding }) {
  const [camera, files] = [useRef<HTMLInputElement>(null), useRef<HTMLInputElement>(null)];
  const pick = (event: React.ChangeEvent<HTMLInputElement>) => {
    void photos.add([...(event.target.files ?? [])]);
    event.target.value = "";
  };
  return (
    <div>
      <div className="flex flex-wrap gap-3">
        <Button onClick={() => camera.current?.click()}>
          <Camera size={20} aria-hidden="true" /> Take a picture
        </Button>
        <Button onClick={() => files.current?.click()}>
          <ImagePlus size={20} aria-hidden="true" /> Choose pictures
        </Button>
        <input ref={camera} type="file" accept="image/*" capture="environment" hidden onChange={pick} />
        <input ref={files} type="file" accept="image/*" multiple hidden data-photos onChange={pick} />
      </div>
      {photos.sending > 0 && (
        <p role="status" className="mt-2">
          {photos.sending === 1 ? "A picture is" : `${photos.sending} pictures are`} on the way …
        </p>
      )}
      {photos.problem && (
        <p role="alert" className="mt-2 font-semibold text-amber">
          {photos.problem}
        </p>
      )}
      {job.photos.length === 0 ? (
        <p className="mt-2 text-muted">None yet. How it came in, its plates and plugs, the receipt.</p>
      ) : (
        <ul className="m-0 mt-3 flex list-none flex-wrap gap-3 p-0">
          {job.photos.map((photo) => (
            <li key={photo.id}>
              <Picture job={job} photo={photo} actions={actions} />
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function Picture({ job, photo, actions }: { job: JobSheet; photo: Schemas["PhotoAnswer"]; actions: JobActions }) {
  const dialog = useRef<HTMLDialogElement>(null);
  const [shown, setShown] = useState(false);
  const address = at(`/api/jobs/${job.id}/photos/${photo.id}`);
  const proof = photo.kind === "proof";
  const what = proof ? "Proof of purchase" : `Picture, ${ago(photo.addedAt)}`;
  const close = () => dialog.current?.close();
  // Two touches in a row reach the server in that order, also on a slow line.
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const inTurn = (act: () => Promise<unknown>, otherwise: string) => {
    const next = last.current.then(act);
    last.current = next.catch(() => undefined);
    telling(next, otherwise);
  };
  // The browser's own dialogue: it keeps the focus inside and writes no styles into the page, which its policy forbids.
  return (
    <>
      <button
        type="button"
        className="block text-left"
        aria-label={`${what}: ${photo.name}`}
        onClick={() => {
          setShown(true);
          dialog.current?.showModal();
        }}
      >
        <img
          src={`${address}?small=true`}
          alt=""
          loading="lazy"
          className={`block h-32 w-40 border object-cover ${proof ? "border-teal" : "border-hairline"}`}
        />
        <span className={proof ? "font-semibold text-teal" : "text-muted"}>{what}</span>
      </button>
      <dialog
        ref={dialog}
        aria-label={photo.name}
        onClose={() => setShown(false)}
        className="m-0 h-dvh max-h-none w-dvw max-w-none border-0 bg-paper p-4 text-ink"
      >
        {shown && (
          <div className="grid h-full grid-rows-[auto_minmax(0,1fr)] gap-3">
            <div className="flex flex-wrap items-center gap-3">
              <h2 className="mr-auto text-xl font-bold">{photo.name}</h2>
              <Button
                onClick={() =>
                  inTurn(
                    () => actions.setPhotoKind(photo.id, proof ? "photo" : "proof"),
                    "What it shows was not changed.",
                  )
                }
              >
                {proof ? "It is no proof of purchase" : "It is the proof of purchase"}
              </Button>
              <Button
                onClick={() => {
                  close();
                  inTurn(() => actions.removePhoto(photo.id), "The picture was not taken off.");
                }}
              >
                Take it off
              </Button>
              <Button aria-label="Close" onClick={close}>
                <X size={20} aria-hidden="true" />
              </Button>
            </div>
            <img src={address} alt={what} className="m-auto max-h-full max-w-full object-contain" />
          </div>
        )}
      </dialog>
    </>
  );
}
