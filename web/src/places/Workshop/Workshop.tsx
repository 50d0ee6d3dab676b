import { useHealth } from "../../api/health";
import { Link } from "react-router";
import { useMe } from "../../api/session";
import { useSaveSetting, useSettings, useTimeZones } from "../../api/settings";
import { buttonLook } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { telling } from "../../parts/told";
import { useTitle } from "../../parts/useTitle";
import { Rates } from "../Coolers/Rates";
import { Archive } from "./Archive";
import { Backups } from "./Backups";
import { Logo } from "./Logo";
import { OpenHours } from "./OpenHours";
import { Owners } from "./Owners";
import { People } from "./People";
import { SettingField } from "./SettingField";

/** What the workshop is called, what its day is, what it asks, and how the server is. */
export function WorkshopPlace() {
  const zones = useTimeZones();
  const me = useMe();
  useTitle("Workshop");
  return (
    <div className="px-4 py-5 md:px-7">
      <h1 className="text-3xl font-bold">The workshop</h1>
      <div className="mt-4 grid gap-x-14 gap-y-8 lg:grid-cols-2">
        <fieldset
          disabled={me?.role !== "lead"}
          aria-label="Names"
          className="m-0 grid min-w-0 content-start gap-2 border-0 p-0"
        >
          <h2 className="text-xl font-bold">Names</h2>
          <SettingField name="name" label="Workshop" kind="text" />
          <SettingField name="tagPrefix" label="Before a tag’s number" kind="text" />
          <SettingField name="currency" label="Currency" kind="text" />
          <SettingField name="timeZone" label="Time zone" kind="text" suggestions={zones.data} />
          <p className="m-0 text-muted">
            The time zone says what “today” is: for warranties, recheck dates and the owner’s page.
          </p>
          <ReadIn />
          <h2 className="mt-4 text-xl font-bold">What leaves it</h2>
          <SettingField name="address" label="Address, under its name" kind="note" lines={3} />
          <Paper />
          <div className="mt-4 grid gap-6">
            <Logo />
            <OpenHours />
          </div>
          <div className="mt-4">
            <Rates />
          </div>
          {me?.role !== "lead" && <p className="m-0 text-muted">A lead sets these.</p>}
        </fieldset>
        <div className="grid content-start gap-8">
          <People />
          <section aria-label="Log">
            <h2 className="text-xl font-bold">Log</h2>
            <p className="mt-0 mb-2 text-muted">Who came and went, and who changed what, in all of the workshop.</p>
            {me?.role === "lead" ? (
              <Link className={buttonLook("plain")} to="/workshop/log">
                Read it
              </Link>
            ) : (
              <p className="m-0">A lead reads it.</p>
            )}
          </section>
          {me?.role === "lead" && <Owners />}
          {me?.role === "lead" && <Backups />}
          {me?.role === "lead" && <Archive />}
          <Server />
        </div>
      </div>
    </div>
  );
}

/** In which degrees people here read temperatures. */
function ReadIn() {
  const settings = useSettings();
  const save = useSaveSetting();
  return settings.data ? (
    <Choice
      label="Temperatures"
      value={settings.data.temperatureUnit}
      options={[
        ["celsius", "°C"],
        ["fahrenheit", "°F"],
      ]}
      onChange={(next) => next && telling(save("temperatureUnit", next, settings.data.temperatureUnit))}
    />
  ) : null;
}

/** What the workshop prints on. */
function Paper() {
  const settings = useSettings();
  const save = useSaveSetting();
  return settings.data ? (
    <Choice
      label="Paper"
      value={settings.data.paperSize}
      options={[
        ["a4", "A4"],
        ["letter", "Letter"],
      ]}
      onChange={(next) => next && telling(save("paperSize", next, settings.data.paperSize))}
    />
  ) : null;
}

/** How the server is, in a sentence. */
function Server() {
  const health = useHealth();
  const me = useMe();
  const figures = health.data?.figures;
  return (
    <section aria-label="Server">
      <h2 className="text-xl font-bold">Server</h2>
      {health.isError ? (
        <p role="alert" className="m-0 font-semibold text-amber">
          {health.error.message}
        </p>
      ) : !health.data ? (
        <p role="status" className="m-0 text-muted">
          Asking …
        </p>
      ) : (
        <>
          <p className={`m-0 text-lg ${health.data.sentence ? "border-l-4 border-amber pl-3" : ""}`}>
            {health.data.sentence ?? "Database, files and background work are well."}
          </p>
          <dl className="mt-3 grid grid-cols-[1fr_auto] gap-x-6 gap-y-1">
            <dt className="text-muted">Work that waits</dt>
            <dd className="m-0 text-right font-mono">{figures?.workWaiting ?? 0}</dd>
            <dt className="text-muted">Work that failed for good</dt>
            <dd className="m-0 text-right font-mono">{figures?.workSetAside ?? 0}</dd>
            <dt className="text-muted">Runs without their original</dt>
            <dd className="m-0 text-right font-mono">{figures?.runsWithoutOriginal ?? 0}</dd>
            <dt className="text-muted">Version</dt>
            <dd className="m-0 text-right font-mono">{me?.version}</dd>
          </dl>
        </>
      )}
    </section>
  );
}
