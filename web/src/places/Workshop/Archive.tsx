import { useState } from "react";
import { archive, useReadArchive } from "../../api/bundles";
import { useJobList } from "../../api/jobs";
import { buttonLook } from "../../parts/Button";
import { FileButton } from "../../parts/FileButton";

/** All of the workshop as one file: to be kept elsewhere, and read into an empty one. */
export function Archive() {
  const jobs = useJobList("");
  const [sent, setSent] = useState(0);
  const reading = useReadArchive(setSent);
  return (
    <section aria-label="Archive">
      <h2 className="text-xl font-bold">Archive</h2>
      <p className="mt-0 mb-2 text-muted">
        Every job with its logs and pictures, parts, people and settings in one file that other programs can read. Keep
        it on another disk; an empty workshop reads it in.
      </p>
      {jobs.data?.length === 0 ? (
        <FileButton
          accept=".zip"
          label="A workshop’s archive"
          kind="main"
          disabled={reading.isPending}
          onFile={(file) => reading.mutate(file)}
        >
          {!reading.isPending
            ? "Read an archive in …"
            : sent < 1
              ? `Sending, ${Math.round(100 * sent)} %`
              : "Checking every file …"}
        </FileButton>
      ) : (
        <a className={buttonLook("plain")} href={archive} download>
          Download everything
        </a>
      )}
      {reading.isError && (
        <p role="alert" className="mt-2 mb-0 border-l-4 border-amber pl-3 font-semibold">
          {reading.error.message}
        </p>
      )}
      {reading.data && (
        <p role="status" className="mt-2 mb-0">
          {reading.data.workshop} is here: {reading.data.jobs} jobs, {reading.data.runs} runs, {reading.data.parts}{" "}
          parts. The originals are being read again.
        </p>
      )}
    </section>
  );
}
