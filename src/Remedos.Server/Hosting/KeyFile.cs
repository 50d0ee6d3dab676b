using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Microsoft.AspNetCore.DataProtection;

namespace Remedos.Server.Hosting;

/// <summary>
/// The key that encrypts the keys in the database: cookies, tokens and code apps are read by nobody who has the database alone. All servers
/// of one database use the same file.
/// </summary>
internal static class KeyFile
{
    private const int Bits = 3072,
        Years = 50;

    /// <summary>Uses the file that `KeyFile` names, and makes it where there is none; without one the keys stand as they are.</summary>
    public static void Protect(IDataProtectionBuilder protection, IConfiguration configuration)
    {
        if (configuration.GetValue<string>("KeyFile") is { Length: > 0 } path)
        {
            X509Certificate2 key = File.Exists(path)
                ? X509CertificateLoader.LoadPkcs12FromFile(path, null, X509KeyStorageFlags.EphemeralKeySet)
                : Make(path);
            protection.ProtectKeysWithCertificate(key);
        }
    }

    private static X509Certificate2 Make(string path)
    {
        using RSA rsa = RSA.Create(Bits);
        CertificateRequest request = new("CN=remedos keys", rsa, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
        DateTimeOffset now = DateTimeOffset.UtcNow;
        using X509Certificate2 made = request.CreateSelfSigned(now.AddDays(-1), now.AddYears(Years));
        byte[] bytes = made.Export(X509ContentType.Pfx);
        FileStreamOptions own = new()
        {
            Mode = FileMode.CreateNew,
            Access = FileAccess.Write,
            UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
        };
        // Beside it first: half a key would shut everybody out.
        string half = $"{path}.{Environment.ProcessId}";
        using (FileStream file = new(half, own))
        {
            file.Write(bytes);
            file.Flush(flushToDisk: true);
        }

        try
        {
            File.Move(half, path);
        }
        catch (IOException) when (File.Exists(path))
        {
            // Another server was quicker, and its key is the one.
            File.Delete(half);
            return X509CertificateLoader.LoadPkcs12FromFile(path, null, X509KeyStorageFlags.EphemeralKeySet);
        }

        return X509CertificateLoader.LoadPkcs12(bytes, null, X509KeyStorageFlags.EphemeralKeySet);
    }
}
