import { useEffect } from "react";
import { useBackups, useMakeBackup } from "../../api/backups";
import { useSettings } from "../../api/settings";
import { Button } from "../../parts/Button";
import { moment } from "../../parts/words";
import { SettingField } from "./SettingField";

/** What the server keeps elsewhere by itself: when, how many, and whether the last one was made. */
export function Backups() {
  const backups = useBackups();
  const settings = useSettings();
  const make = useMakeBackup();
  const time = settings.data?.backupAt;
  const { refetch } = backups;
  // The next one follows the time that is set.
  useEffect(() => void refetch(), [time, refetch]);
  const stand = backups.data;
  return (
    <section aria-label="Backups" className="grid gap-2">
      <h2 className="text-xl font-bold">Backups</h2>
      {stand?.folder === null ? (
        <p className="m-0 border-l-4 border-amber pl-3">
          The server has no folder for backups: whoever runs it names one with BackupFolder, on another disk. Until then
          an archive can be downloaded.
        </p>
      ) : (
        stand && (
          <>
            <p role="status" className={`m-0 text-lg ${stand.problem ? "border-l-4 border-amber pl-3" : ""}`}>
              {stand.problem ? (
                <>
                  <strong>The last backup was not made.</strong> {stand.problem}
                </>
              ) : stand.madeAt ? (
                `The last one was made ${moment(stand.madeAt)}, ${megabytes(stand.bytes)} MB.`
              ) : (
                "None has been made yet."
              )}
              {stand.problem && stand.madeAt && ` The one before is of ${moment(stand.madeAt)}.`}
              {stand.nextAt && ` The next try is ${moment(stand.nextAt)}.`}
              {time === null && " Set a time, and one is made every day."}
            </p>
            <SettingField name="backupAt" label="Every day at" kind="time" />
            <SettingField name="backupsKept" label="How many are kept" kind="number" />
            <p className="m-0 text-muted">
              An archive of everything, in <span className="font-mono break-all">{stand.folder}</span> on the server. A
              folder on the same disk goes with that disk.
            </p>
            <div>
              <Button onClick={() => make.mutate()} disabled={make.isPending}>
                {make.isPending ? "Being made …" : "Back up now"}
              </Button>
            </div>
          </>
        )
      )}
      {(backups.isError || make.isError) && (
        <p role="alert" className="m-0 font-semibold text-amber">
          {(make.error ?? backups.error)!.message}
        </p>
      )}
    </section>
  );
}

const megabytes = (bytes: number) => (bytes < 1e6 ? (bytes / 1e6).toFixed(1) : Math.round(bytes / 1e6).toString());
