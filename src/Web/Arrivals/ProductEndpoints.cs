using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Products bought, and those that campaigns advertise.</summary>
public static class ProductEndpoints
{
    private const int MostOnPage = 500;

    public static void MapProducts(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/v1/arrivals/products", ReadAsync)
            .WithName("ReadProducts")
            .WithSummary("Reports products bought, and what was bought of them by those a campaign advertises them to.")
            .WithTags("Arrivals")
            .For(Caller.Readers);

    private static async Task<Outcome<ProductsAnswer>> ReadAsync(
        BeaconDb db,
        ConventionReader conventions,
        ProductReader products,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null,
        [FromQuery] string[]? where = null,
        string? search = null,
        string sort = "value",
        int page = 1,
        int size = 50
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var (request, refusal) = ArrivalsEndpoints.RequestOf(workspace, clock, from, to, "", where);
        if (request is null)
        {
            return refusal!;
        }

        if (
            !sort.All(char.IsAsciiLetter)
            || !Enum.TryParse<ProductOrder>(sort, ignoreCase: true, out var order)
            || page is < 1 or > int.MaxValue / (2 * MostOnPage)
            || size is < 1 or > MostOnPage
        )
        {
            return Refusal.Invalid(
                "order-refused",
                $"Products are ordered by value, pieces, orders or advertised, the most first; a page of the list has 1 to {MostOnPage} of them."
            );
        }

        var (read, total, found) = await products.ReadAsync(
            request,
            await conventions.ReadAsync(cancel),
            search?.Trim().Replace("\0", "", StringComparison.Ordinal) ?? "",
            order,
            (page - 1) * size,
            size,
            cancel
        );
        return new ProductsAnswer(
            request.From,
            request.To,
            [.. read.Select(p => ProductAnswer.Of(p, workspace.Currency))],
            ProductAnswer.Of(total, workspace.Currency),
            found,
            workspace.RawFrom is { } raw && request.From < raw ? raw : null
        );
    }
}

/// <summary>Products that were bought.</summary>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="Products">One page of the list, in the order asked for.</param>
/// <param name="Total">All of them together.</param>
/// <param name="Found">How many products there are in all.</param>
/// <param name="RawFrom">The first day visits are kept one by one where the range begins earlier; what was bought before is not known any more. Null else.</param>
public sealed record ProductsAnswer(
    DateOnly From,
    DateOnly To,
    IReadOnlyList<ProductAnswer> Products,
    ProductAnswer Total,
    long Found,
    DateOnly? RawFrom
);

/// <summary>What was bought of a product.</summary>
/// <param name="Id">The shop's id of it; null where it says none.</param>
/// <param name="Name">Its name; likewise.</param>
/// <param name="Category">Its category; likewise.</param>
/// <param name="Orders">In how many orders.</param>
/// <param name="Pieces">How many pieces.</param>
/// <param name="Value">What they brought, in the workspace's currency.</param>
/// <param name="AdvertisedPieces">Those of them bought in visits of a campaign that advertises the product.</param>
/// <param name="AdvertisedValue">What these brought.</param>
public sealed record ProductAnswer(
    string? Id,
    string? Name,
    string? Category,
    long Orders,
    long Pieces,
    Money Value,
    long AdvertisedPieces,
    Money AdvertisedValue
)
{
    public static ProductAnswer Of(ProductFigures p, string currency) =>
        new(
            TypedText.OrNull(p.Id),
            TypedText.OrNull(p.Name),
            TypedText.OrNull(p.Category),
            p.Orders,
            p.Pieces,
            Money.Of(p.Value, currency),
            p.AdvertisedPieces,
            Money.Of(p.AdvertisedValue, currency)
        );
}
