using System.Net;
using Amazon.Runtime;
using Amazon.S3;
using Amazon.S3.Model;

namespace Remedos.Server.Files;

/// <summary>
/// A store at an S3-compatible address, which several machines share. A file comes to this machine first, for it is named by its hash; it
/// appears there by one request, and so whole or not at all.
/// </summary>
internal sealed class S3Store(StoreAddress at, Scratch scratch) : IFileStore, IDisposable
{
    private const string MarkerName = "store-id";

    private readonly AmazonS3Client _client = new(
        new BasicAWSCredentials(at.Key, at.Secret),
        new AmazonS3Config
        {
            ServiceURL = at.Service.ToString(),
            // Names of buckets in the path: not every store has a name of its own for each.
            ForcePathStyle = true,
            AuthenticationRegion = at.Region,
            RequestChecksumCalculation = RequestChecksumCalculation.WHEN_REQUIRED,
            ResponseChecksumValidation = ResponseChecksumValidation.WHEN_REQUIRED,
            MaxErrorRetry = 2,
        }
    );

    /// <inheritdoc/>
    public Task<Guid?> IdentityAsync(CancellationToken cancellation) =>
        AskAsync(
            async () =>
            {
                try
                {
                    using GetObjectResponse answer = await _client.GetObjectAsync(at.Bucket, at.Prefix + MarkerName, cancellation);
                    using StreamReader text = new(answer.ResponseStream);
                    return Guid.TryParse(await text.ReadToEndAsync(cancellation), out Guid id) ? id : (Guid?)null;
                }
                catch (AmazonS3Exception missing) when (missing.StatusCode == HttpStatusCode.NotFound)
                {
                    return null;
                }
            },
            cancellation
        );

    /// <inheritdoc/>
    public Task NameAsync(Guid identity, CancellationToken cancellation) =>
        AskAsync(
            () =>
                _client.PutObjectAsync(
                    new PutObjectRequest
                    {
                        BucketName = at.Bucket,
                        Key = at.Prefix + MarkerName,
                        ContentBody = $"{identity}\n",
                        UseChunkEncoding = false,
                    },
                    cancellation
                ),
            cancellation
        );

    /// <inheritdoc/>
    public async Task<(string Sha256, long Bytes)> SaveAsync(Stream content, long? expectedBytes, CancellationToken cancellation)
    {
        scratch.MakeSure(expectedBytes ?? 0);
        await using FileStream file = scratch.Open();
        (string Sha256, long Bytes) taken = await scratch.TakeAsync(content, file, cancellation);
        if (!await HasAsync(taken.Sha256, cancellation))
        {
            file.Position = 0;
            await AskAsync(
                () =>
                    _client.PutObjectAsync(
                        new PutObjectRequest
                        {
                            BucketName = at.Bucket,
                            Key = KeyOf(taken.Sha256),
                            InputStream = file,
                            AutoCloseStream = false,
                            // The whole is signed by its hash: what arrives is what was sent.
                            UseChunkEncoding = false,
                            ContentType = "application/octet-stream",
                        },
                        cancellation
                    ),
                cancellation
            );
        }

        return taken;
    }

    /// <inheritdoc/>
    public Task<Stream> OpenAsync(string sha256, CancellationToken cancellation) =>
        AskAsync<Stream>(
            async () =>
            {
                try
                {
                    return (await _client.GetObjectAsync(at.Bucket, KeyOf(sha256), cancellation)).ResponseStream;
                }
                catch (AmazonS3Exception missing) when (missing is { StatusCode: HttpStatusCode.NotFound, ErrorCode: not "NoSuchBucket" })
                {
                    throw new OriginalMissingException(sha256);
                }
            },
            cancellation
        );

    /// <inheritdoc/>
    public Task RemoveAsync(string sha256, CancellationToken cancellation) =>
        AskAsync(() => _client.DeleteObjectAsync(at.Bucket, KeyOf(sha256), cancellation), cancellation);

    /// <inheritdoc/>
    public Task<bool> HasAsync(string sha256, CancellationToken cancellation) =>
        AskAsync(
            async () =>
            {
                try
                {
                    await _client.GetObjectMetadataAsync(at.Bucket, KeyOf(sha256), cancellation);
                    return true;
                }
                catch (AmazonS3Exception missing) when (missing.StatusCode == HttpStatusCode.NotFound)
                {
                    return false;
                }
            },
            cancellation
        );

    /// <inheritdoc/>
    public Stream OpenScratch() => scratch.Open();

    /// <inheritdoc/>
    public long Room => scratch.Room;

    public void Dispose() => _client.Dispose();

    private string KeyOf(string sha256) => $"{at.Prefix}{sha256[..2]}/{sha256}";

    /// <summary>Asks the store; whatever it or the way to it does wrong is one failure, and so is an answer that does not come.</summary>
    /// <exception cref="StoreAwayException">It does not answer, or refuses.</exception>
    private static async Task<T> AskAsync<T>(Func<Task<T>> ask, CancellationToken cancellation)
    {
        try
        {
            return await ask();
        }
        catch (Exception failure)
            when (failure is AmazonServiceException or AmazonClientException or HttpRequestException or WebException or IOException
                || (failure is OperationCanceledException && !cancellation.IsCancellationRequested)
            )
        {
            throw new StoreAwayException($"The file store does not answer: {failure.Message}", failure);
        }
    }
}

/// <summary>Where an S3-compatible store is, and who asks there.</summary>
/// <param name="Service">The service without the bucket.</param>
/// <param name="Prefix">What the names of all its files begin with; empty, or ending with a slash.</param>
internal sealed record StoreAddress(Uri Service, string Bucket, string Prefix, string Key, string Secret, string Region)
{
    /// <summary>Of an address such as https://store.example/bucket/prefix.</summary>
    /// <exception cref="Hosting.StartupException">It names no bucket, or nobody to ask as.</exception>
    public static StoreAddress Of(string address, IConfiguration configuration)
    {
        if (!Uri.TryCreate(address, UriKind.Absolute, out Uri? uri) || uri.AbsolutePath.Trim('/') is not { Length: > 0 } path)
        {
            throw new Hosting.StartupException(
                "FileStore is a folder, or an S3-compatible address with its bucket, such as https://store.example/originals, "
                    + $"not “{address}”."
            );
        }

        string Said(string setting) =>
            configuration.GetValue<string>(setting) is { Length: > 0 } said
                ? said
                : throw new Hosting.StartupException($"{setting} is not set: the store at {uri.Host} asks who comes (docs/operating.md).");
        string[] parts = path.Split('/', 2);
        return new StoreAddress(
            new Uri(uri.GetLeftPart(UriPartial.Authority)),
            parts[0],
            parts.Length > 1 ? parts[1] + "/" : "",
            Said("FileStoreKey"),
            Said("FileStoreSecret"),
            configuration.GetValue("FileStoreRegion", "us-east-1")!
        );
    }
}
