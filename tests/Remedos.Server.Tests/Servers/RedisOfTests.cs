using System.Diagnostics;
using System.Net;
using System.Net.Sockets;

namespace Remedos.Server.Tests.Servers;

/// <summary>A Redis of a test's own, on this machine alone; it can be killed and started again at the same address.</summary>
internal sealed class RedisOfTests : IDisposable
{
    private readonly int _port = FreePort();
    private Process? _process;

    /// <summary>As a server's setting names it.</summary>
    public string Address => $"127.0.0.1:{_port},password=tide,connectTimeout=1000,syncTimeout=1000";

    public void Start()
    {
        _process = Process.Start(
            new ProcessStartInfo("redis-server", "-")
            {
                UseShellExecute = false,
                RedirectStandardInput = true,
                RedirectStandardOutput = true,
            }
        )!;
        _process.OutputDataReceived += (_, _) => { };
        _process.BeginOutputReadLine();
        _process.StandardInput.Write($"bind 127.0.0.1\nport {_port}\nrequirepass tide\nsave \"\"\nappendonly no\n");
        _process.StandardInput.Close();
    }

    public void Kill()
    {
        _process!.Kill();
        _process.WaitForExit();
    }

    public void Dispose()
    {
        if (_process is { HasExited: false })
        {
            Kill();
        }

        _process?.Dispose();
    }

    public static int FreePort()
    {
        using TcpListener listener = new(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
