import { Upload } from "lucide-react";
import { useState } from "react";
import { sentenceOf } from "../../api/client";
import { usePartActions, type PartImport } from "../../api/parts";
import { Button } from "../../parts/Button";
import { FileButton } from "../../parts/FileButton";

const changeWords: Record<string, string> = { new: "new", changed: "changes", same: "as it is", wrong: "wrong" };

/** A file of parts: what it would do is shown first, line by line; it is taken whole or not at all. */
export function PartFile() {
  const { takeFile } = usePartActions();
  const [file, setFile] = useState<{ name: string; text: string }>();
  const [shown, setShown] = useState<PartImport>();
  const [problem, setProblem] = useState<string>();
  const ask = async (text: string, apply: boolean) => {
    setProblem(undefined);
    try {
      setShown(await takeFile(text, apply));
    } catch (failure) {
      setShown(undefined);
      setProblem(sentenceOf(failure, "The file could not be read."));
    }
  };
  const close = () => {
    setFile(undefined);
    setShown(undefined);
    setProblem(undefined);
  };
  const lines = shown?.lines.filter((line) => line.change !== "same") ?? [];
  return (
    <>
      <FileButton
        accept=".csv,.tsv,.txt,.json"
        label="A file of parts"
        onFile={(chosen) =>
          void chosen.text().then((text) => {
            setFile({ name: chosen.name, text });
            return ask(text, false);
          })
        }
      >
        <Upload size={18} aria-hidden="true" /> Take a file
      </FileButton>
      {file && (
        <section aria-label="What the file would do" className="order-last basis-full border border-edge bg-card p-5">
          <h2 className="text-2xl font-bold">{titleOf(file.name, shown, problem)}</h2>
          {problem && (
            <p role="alert" className="text-lg">
              {problem}
            </p>
          )}
          <ul aria-label="Lines of the file" className="m-0 mt-3 max-h-96 list-none overflow-y-auto p-0" tabIndex={0}>
            {lines.map((line) => (
              <li key={line.line} className="border-t border-hairline py-2">
                <span className="font-mono text-muted">{line.line}</span>{" "}
                <span className={line.change === "wrong" ? "font-bold text-amber" : "text-teal"}>
                  {changeWords[line.change]}
                </span>{" "}
                <span className="font-semibold">{line.name || line.kind}</span>
                {line.sentences.map((sentence) => (
                  <span key={sentence} className="block pl-8 text-muted">
                    {sentence}
                  </span>
                ))}
              </li>
            ))}
          </ul>
          <div className="mt-3 flex flex-wrap gap-3">
            {shown && !shown.applied && (
              <Button
                kind="main"
                disabled={shown.wrong > 0 || lines.length === 0}
                onClick={() => void ask(file!.text, true)}
              >
                Take all of it
              </Button>
            )}
            <Button onClick={close}>{shown?.applied ? "Done" : "Leave it"}</Button>
          </div>
        </section>
      )}
    </>
  );
}

function titleOf(name: string, shown: PartImport | undefined, problem: string | undefined): string {
  if (problem) {
    return "This is no file of parts";
  }
  if (!shown) {
    return `Reading ${name} …`;
  }
  if (shown.applied) {
    return `Taken: ${shown.new} new, ${shown.changed} changed`;
  }
  return shown.wrong > 0
    ? `Nothing is taken yet: ${shown.wrong === 1 ? "one line is" : `${shown.wrong} lines are`} wrong`
    : `${shown.new} new, ${shown.changed} ${shown.changed === 1 ? "changes" : "change"}, ${shown.same} as they are`;
}
