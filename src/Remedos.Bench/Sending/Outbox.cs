using System.Globalization;
using System.Text;
using Remedos.Core.Bays;

namespace Remedos.Bench.Sending;

/// <summary>
/// Readings that the server has not acknowledged. With a folder they are on disk as well, in files of some hundred each, so that a probe
/// that is cut off goes on in the
/// same recording when it is started again, and sends what had not arrived.
/// </summary>
internal sealed class Outbox : IDisposable
{
    private const int LinesAFile = 600;

    private const string NameFile = "recording",
        AcknowledgedFile = "acknowledged",
        Suffix = ".ndjson";

    private readonly Queue<(long Sequence, string Line)> _waiting = new();
    private readonly SortedList<long, string> _files = [];
    private readonly string? _folder;
    private StreamWriter? _writer;
    private int _linesInFile;
    private long _acknowledged;

    /// <summary>Opens an outbox, with whatever an earlier one left in its folder.</summary>
    /// <param name="folder">Null to keep nothing on disk.</param>
    /// <param name="name">A new recording's name, when none is left to go on with.</param>
    public Outbox(string? folder, string name)
    {
        (_folder, Stream) = (folder, name);
        if (folder is null)
        {
            return;
        }

        MakeOwn(folder);
        string nameFile = Path.Combine(folder, NameFile);
        if (File.Exists(nameFile) && File.ReadAllText(nameFile).Trim() is { Length: > 0 } left)
        {
            Stream = left;
            _acknowledged =
                File.Exists(Path.Combine(folder, AcknowledgedFile))
                && long.TryParse(File.ReadAllText(Path.Combine(folder, AcknowledgedFile)), CultureInfo.InvariantCulture, out long known)
                    ? known
                    : 0;
            foreach (string file in Directory.EnumerateFiles(folder, "*" + Suffix).Order(StringComparer.Ordinal))
            {
                Load(file);
            }
        }
        else
        {
            File.WriteAllText(nameFile, name);
        }
    }

    public string Stream { get; private set; }

    /// <summary>The last reading that was ever put in.</summary>
    public long LastSequence { get; private set; }

    /// <summary>Its time on the sender's clock, s.</summary>
    public double LastSeconds { get; private set; }

    public int Waiting => _waiting.Count;

    public void Add(BayReading reading)
    {
        string line = Wire.Line(reading);
        _waiting.Enqueue((reading.Sequence, line));
        (LastSequence, LastSeconds) = (reading.Sequence, reading.Seconds);
        if (_folder is null)
        {
            return;
        }

        if (_writer is null || _linesInFile >= LinesAFile)
        {
            _writer?.Dispose();
            string file = Path.Combine(_folder, reading.Sequence.ToString("D15", CultureInfo.InvariantCulture) + Suffix);
            _writer = new StreamWriter(new FileStream(file, FileMode.Create, FileAccess.Write, FileShare.Read), new UTF8Encoding(false))
            {
                AutoFlush = true,
            };
            _files[reading.Sequence] = file;
            _linesInFile = 0;
        }

        _writer.Write(line + '\n');
        _linesInFile++;
    }

    /// <summary>Sees that what was put in outlives a machine that switches itself off.</summary>
    public void Sync() => (_writer?.BaseStream as FileStream)?.Flush(flushToDisk: true);

    /// <summary>The oldest that wait, a line each: at most so many and so many bytes, and one at least.</summary>
    public string Oldest(int most, int mostBytes)
    {
        StringBuilder lines = new();
        foreach ((_, string line) in _waiting.Take(most))
        {
            if (lines.Length > 0 && lines.Length + line.Length >= mostBytes)
            {
                break;
            }

            lines.Append(lines.Length == 0 ? "" : "\n").Append(line);
        }

        return lines.ToString();
    }

    /// <summary>Lets go of what is safely there.</summary>
    /// <returns>False when the server lacks readings that are kept no more; then begin a new recording.</returns>
    public bool Acknowledge(long sequence)
    {
        long oldest = _waiting.TryPeek(out (long Sequence, string Line) first) ? first.Sequence : LastSequence + 1;
        while (_waiting.TryPeek(out first) && first.Sequence <= sequence)
        {
            _waiting.Dequeue();
        }

        if (_folder is not null && sequence != _acknowledged)
        {
            File.WriteAllText(Path.Combine(_folder, AcknowledgedFile), sequence.ToString(CultureInfo.InvariantCulture));
        }

        _acknowledged = sequence;
        // The newest file is kept as well: it tells where a recording goes on.
        while (_files.Count > 1 && _files.Keys[1] <= sequence + 1)
        {
            File.Delete(_files.Values[0]);
            _files.RemoveAt(0);
        }

        return sequence >= oldest - 1;
    }

    /// <summary>Begins a new recording; what waits is sent no more.</summary>
    public void Restart(string name)
    {
        Dispose();
        (_writer, _linesInFile, Stream, LastSequence, LastSeconds, _acknowledged) = (null, 0, name, 0, 0, 0);
        _waiting.Clear();
        foreach (string file in _files.Values)
        {
            File.Delete(file);
        }

        _files.Clear();
        if (_folder is not null)
        {
            File.WriteAllText(Path.Combine(_folder, NameFile), name);
            File.WriteAllText(Path.Combine(_folder, AcknowledgedFile), "0");
        }
    }

    public void Dispose() => _writer?.Dispose();

    /// <summary>
    /// Makes the folder, for this user alone. Run by root, whoever else could put a link into it could have any file overwritten: so what
    /// is there already must be a
    /// folder, of this user, that nobody else may write to.
    /// </summary>
    private static void MakeOwn(string folder)
    {
        const UnixFileMode own = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;
        DirectoryInfo made = Directory.CreateDirectory(folder, own);
        if (made.LinkTarget is not null)
        {
            throw new IOException($"{folder} is a link to somewhere else.");
        }

        // Only its owner may change what a folder is; a medium that knows no owners lets everybody write, and says so below.
        File.SetUnixFileMode(folder, own);
        FileSystemInfo? link = made.EnumerateFileSystemInfos().FirstOrDefault(entry => entry.LinkTarget is not null);
        if (link is not null)
        {
            throw new IOException($"{link.FullName} is a link, and none is followed.");
        }
    }

    /// <summary>
    /// A file that was cut off in the middle of a line is read up to there, and what follows begins with the reading that is missing.
    /// </summary>
    private void Load(string file)
    {
        string text = File.ReadAllText(file);
        foreach (string line in text[..(text.LastIndexOf('\n') + 1)].Split('\n', StringSplitOptions.RemoveEmptyEntries))
        {
            if (BayLine.Parse(line).Reading is { } reading && (LastSequence == 0 || reading.Sequence == LastSequence + 1))
            {
                (LastSequence, LastSeconds) = (reading.Sequence, reading.Seconds);
                if (reading.Sequence > _acknowledged)
                {
                    _waiting.Enqueue((reading.Sequence, line));
                }
            }
        }

        if (long.TryParse(Path.GetFileNameWithoutExtension(file), CultureInfo.InvariantCulture, out long first))
        {
            _files[first] = file;
        }
    }
}
