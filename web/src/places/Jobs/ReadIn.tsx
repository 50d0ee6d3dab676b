import { PackageOpen } from "lucide-react";
import { Link, useNavigate } from "react-router";
import { useReadBundle } from "../../api/bundles";
import { Problem } from "../../api/client";
import { Button, buttonLook } from "../../parts/Button";
import { FileButton } from "../../parts/FileButton";

/** Reads in a job that another installation, or this one, has written as a file. */
export function useReadIn() {
  const reading = useReadBundle();
  const navigate = useNavigate();
  const read = (file: File, again: boolean) =>
    reading.mutate({ file, again }, { onSuccess: (sheet) => void navigate(`/jobs/${sheet.id}`) });
  const here = reading.error instanceof Problem ? reading.error.more.job : undefined;
  return {
    button: (
      <FileButton accept=".zip" label="A job’s file" disabled={reading.isPending} onFile={(file) => read(file, false)}>
        <PackageOpen size={20} aria-hidden="true" /> {reading.isPending ? "Reading …" : "Read one in …"}
      </FileButton>
    ),
    told: reading.isError && (
      <div role="alert" className="mt-3 flex flex-wrap items-center gap-3 border-l-4 border-amber pl-3">
        <p className="m-0 font-semibold">{reading.error.message}</p>
        {typeof here === "string" && (
          <>
            <Link className={buttonLook("plain")} to={`/jobs/${here}`}>
              Open it
            </Link>
            <Button onClick={() => read(reading.variables!.file, true)}>Read it in as a new job</Button>
          </>
        )}
        <Button kind="quiet" onClick={() => reading.reset()}>
          Dismiss
        </Button>
      </div>
    ),
  };
}
