import { at } from "../../api/base";
import { useState } from "react";
import { sentenceOf } from "../../api/client";
import { useLogo, useSettings } from "../../api/settings";
import { Button } from "../../parts/Button";
import { FileButton } from "../../parts/FileButton";

/** The picture at the head of what leaves the workshop. */
export function Logo() {
  const settings = useSettings();
  const { set, remove } = useLogo();
  const [wrong, setWrong] = useState<string>();
  const [sending, setSending] = useState(false);
  const shown = settings.data?.logo;
  const doing = (change: Promise<unknown>) => {
    setWrong(undefined);
    setSending(true);
    change
      .catch((failure: unknown) => setWrong(sentenceOf(failure, "It could not be kept.")))
      .finally(() => setSending(false));
  };
  return (
    <section aria-label="Its sign" className="grid gap-2">
      <h2 className="text-xl font-bold">Its sign</h2>
      <p className="m-0 text-muted">Stands at the head of owner’s pages, quotes, bills and claims.</p>
      {shown && (
        <img
          src={at(`/api/settings/logo?${shown}`)}
          alt="The workshop’s sign"
          className="max-h-20 max-w-64 justify-self-start rounded-sm bg-white object-contain p-1"
        />
      )}
      <div className="flex flex-wrap gap-2">
        <FileButton accept="image/*" label="The workshop’s sign" disabled={sending} onFile={(file) => doing(set(file))}>
          {sending ? "On its way …" : shown ? "Another picture …" : "Choose a picture …"}
        </FileButton>
        {shown && (
          <Button kind="quiet" disabled={sending} onClick={() => doing(remove())}>
            None
          </Button>
        )}
      </div>
      {wrong && (
        <p role="alert" className="m-0 font-semibold text-amber">
          {wrong}
        </p>
      )}
    </section>
  );
}
