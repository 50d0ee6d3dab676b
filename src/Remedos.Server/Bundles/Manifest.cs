namespace Remedos.Server.Bundles;

/// <summary>A file in a ZIP.</summary>
/// <param name="Path">From the folder of the manifest.</param>
/// <param name="Sha256">Of its content, in lower-case hexadecimal.</param>
internal sealed record FileRecord(string Path, string Sha256, long Bytes);

/// <summary>What a ZIP is and what is in it: its `remedos.json`.</summary>
/// <param name="Format"><see cref="Job"/> or <see cref="Workshop"/>.</param>
/// <param name="Version">Counted up with every change that an older reader would misread.</param>
/// <param name="From">The workshop that made it, by name.</param>
/// <param name="Record">The JSON with the rows.</param>
/// <param name="Files">Originals and pictures.</param>
/// <param name="Missing">Hashes of files that were not in the store any more when it was made.</param>
/// <param name="Jobs">Folders of an archive's jobs, in the order of their numbers; empty in a bundle.</param>
internal sealed record Manifest(
    string Format,
    int Version,
    DateTimeOffset MadeAt,
    string From,
    FileRecord Record,
    IReadOnlyList<FileRecord> Files,
    IReadOnlyList<string> Missing,
    IReadOnlyList<string> Jobs
)
{
    public const string Job = "remedos-job",
        Workshop = "remedos-workshop",
        Name = "remedos.json";

    /// <summary>The version that this program writes, and the latest that it reads.</summary>
    public const int Current = 1;
}

/// <summary>Why a ZIP cannot be read in, as the end of a sentence that begins with its name.</summary>
internal sealed class BundleException(string sentence) : Exception(sentence);
