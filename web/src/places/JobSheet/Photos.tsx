import { Camera, ImagePlus, X } from "lucide-react";
import { Dialog } from "radix-ui";
import { useRef } from "react";
import type { JobSheet, Schemas } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Button } from "../../parts/Button";
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
  const address = `/api/jobs/${job.id}/photos/${photo.id}`;
  const proof = photo.kind === "proof";
  const what = proof ? "Proof of purchase" : `Picture, ${ago(photo.addedAt)}`;
  // Not modal: what makes it so writes styles into the page, which its policy forbids.
  return (
    <Dialog.Root modal={false}>
      <Dialog.Trigger className="block text-left" aria-label={`${what}: ${photo.name}`}>
        <img
          src={address}
          alt=""
          loading="lazy"
          className={`block h-32 w-40 border object-cover ${proof ? "border-teal" : "border-hairline"}`}
        />
        <span className={proof ? "font-semibold text-teal" : "text-muted"}>{what}</span>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-0 z-50 grid grid-rows-[auto_minmax(0,1fr)] gap-3 bg-paper p-4"
        >
          <div className="flex flex-wrap items-center gap-3">
            <Dialog.Title className="mr-auto text-xl font-bold">{photo.name}</Dialog.Title>
            <Button onClick={() => void actions.setPhotoKind(photo.id, proof ? "photo" : "proof")}>
              {proof ? "It is no proof of purchase" : "It is the proof of purchase"}
            </Button>
            <Dialog.Close asChild>
              <Button onClick={() => void actions.removePhoto(photo.id)}>Take it off</Button>
            </Dialog.Close>
            <Dialog.Close asChild>
              <Button aria-label="Close">
                <X size={20} aria-hidden="true" />
              </Button>
            </Dialog.Close>
          </div>
          <img src={address} alt={what} className="m-auto max-h-full max-w-full object-contain" />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
