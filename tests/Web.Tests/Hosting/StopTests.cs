using System.Diagnostics;
using System.Net.Sockets;
using System.Text;

namespace PreciseBeacon.WebTests.Hosting;

public sealed class StopTests
{
    /// <summary>Somebody sends a request whose body never ends; the process stops all the same.</summary>
    [Fact]
    public async Task A_request_being_worked_on_holds_up_stopping_for_ten_seconds_at_most()
    {
        var host = await BeaconHost.StartAsync();
        using var slow = new TcpClient();
        await slow.ConnectAsync("127.0.0.1", host.Port);
        await slow.GetStream()
            .WriteAsync(
                Encoding.ASCII.GetBytes(
                    $"POST /api/v1/links/inspect HTTP/1.1\r\nHost: 127.0.0.1:{host.Port}\r\nAuthorization: Bearer demo-editor\r\nContent-Type: application/json\r\nContent-Length: 100000\r\n\r\n{{\"url\":"
                )
            );

        // It is being worked on once the others, which came later, are answered.
        using (var other = host.As("editor"))
        {
            Assert.True((await other.GetAsync("/api/v1/links")).IsSuccessStatusCode);
        }

        long began = Stopwatch.GetTimestamp();
        await host.DisposeAsync();
        Assert.True(Stopwatch.GetElapsedTime(began) < TimeSpan.FromSeconds(25), $"{Stopwatch.GetElapsedTime(began)}"); // ten, and what a busy machine adds; it was thirty
    }
}
