using System.Net.Http.Headers;

namespace PreciseBeacon.StandIns.Garden;

/// <summary>
/// The shop behind the garden's website: its own server says which orders are real, and what went back. Memberships are sold by somebody
/// else, so only the page tells of them.
/// </summary>
public sealed class ShopServer(GardenOptions options, ILogger log) : IDisposable
{
    private const string ToldByThePage = "membership";

    private readonly HttpClient _beacon = new()
    {
        BaseAddress = new Uri(options.BeaconUrl),
        Timeout = TimeSpan.FromSeconds(10),
        DefaultRequestHeaders = { Authorization = new AuthenticationHeaderValue("Bearer", options.ReportKey) },
    };

    /// <summary>Says that an order was placed.</summary>
    /// <param name="host">The website it was placed on.</param>
    /// <param name="order">Its number.</param>
    /// <param name="offer">What was bought.</param>
    /// <param name="count">How many.</param>
    /// <param name="cancel">Gives up.</param>
    public Task PlacedAsync(string host, string order, GardenOffer offer, int count, CancellationToken cancel) =>
        offer.Kind == ToldByThePage
            ? Task.CompletedTask
            : SendAsync(
                new
                {
                    eventId = order,
                    site = host,
                    orderId = order,
                    kind = offer.Kind,
                    value = new { amount = offer.Price * count, currency = "EUR" },
                    items = new[]
                    {
                        new
                        {
                            name = offer.Name,
                            category = offer.Kind,
                            count,
                            value = offer.Price,
                        },
                    },
                },
                cancel
            );

    /// <summary>Says that the price of one piece went back.</summary>
    public Task RefundedAsync(string host, string order, GardenOffer offer, CancellationToken cancel) =>
        SendAsync(
            new
            {
                eventId = $"{order}-back-{Guid.NewGuid():N}",
                site = host,
                refundOf = order,
                value = new { amount = offer.Price, currency = "EUR" },
            },
            cancel
        );

    public void Dispose() => _beacon.Dispose();

    /// <summary>The shop goes on without us; what a page reports still counts.</summary>
    private async Task SendAsync(object report, CancellationToken cancel)
    {
        try
        {
            using var answer = await _beacon.PostAsJsonAsync("/api/v1/conversions", report, cancel);
            if (!answer.IsSuccessStatusCode)
            {
                Refused(log, (int)answer.StatusCode, await answer.Content.ReadAsStringAsync(cancel), null);
            }
        }
        catch (Exception away) when (away is HttpRequestException or TaskCanceledException)
        {
            Refused(log, 0, away.Message, away);
        }
    }

    private static readonly Action<ILogger, int, string, Exception?> Refused = LoggerMessage.Define<int, string>(
        LogLevel.Warning,
        new EventId(1),
        "A report was not taken ({Status}): {Answer}"
    );
}
