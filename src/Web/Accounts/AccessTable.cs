using System.Collections.Frozen;

namespace PreciseBeacon.Web.Accounts;

/// <summary>
/// Who may do what: every endpoint has one line here, and an endpoint without a line keeps the application from
/// starting.
/// </summary>
public static class AccessTable
{
    /// <summary>The lines: method, route, and who may call it.</summary>
    public static IReadOnlyList<(string Method, string Route, Who Who)> Lines { get; } =
    [
        ("GET", "/healthz", Who.Anybody),
        ("GET", "/readyz", Who.Anybody),
        ("GET", "/openapi/{documentName}.json", Who.Anybody),
        ("GET", "/beacon.js", Who.Anybody),
        ("POST", "/measure", Who.Anybody),
        ("OPTIONS", "/measure", Who.Anybody),

        ("GET", "/", Who.Anybody),
        ("GET", "/sign-in", Who.Anybody),
        ("GET", "/welcome", Who.Anybody),
        ("GET", "/plan", Who.Anybody),
        ("GET", "/conventions", Who.Anybody),
        ("GET", "/compose", Who.Anybody),
        ("GET", "/ledger", Who.Anybody),
        ("GET", "/arrivals", Who.Anybody),

        ("GET", "/api/account", Who.Anybody),
        ("POST", "/api/account/sign-in", Who.Anybody),
        ("POST", "/api/account/sign-out", Who.Anybody),
        ("POST", "/api/account/first-owner", Who.Anybody),

        ("GET", "/api/v1/convention", Who.Readers),
        ("PUT", "/api/v1/convention", Who.Owner),
        ("GET", "/api/v1/convention/versions", Who.Readers),
        ("POST", "/api/v1/convention/discard", Who.Owner),
        ("POST", "/api/v1/convention/effect", Who.Owner),
        ("POST", "/api/v1/convention/publish", Who.Owner),
        ("POST", "/api/v1/convention/try", Who.Readers),
        ("GET", "/api/v1/convention/rules", Who.Readers),
        ("POST", "/api/v1/convention/look-at-words", Who.Readers),
        ("GET", "/api/v1/convention/sheet.xlsx", Who.Readers),
        ("POST", "/api/v1/convention/read-file", Who.Owner),
        ("GET", "/api/v1/convention/difference", Who.Readers),
        ("GET", "/api/v1/convention/fields", Who.Readers),
        ("GET", "/for/{token}", Who.Anybody),
        ("GET", "/for/{token}/links.csv", Who.Anybody),
        ("GET", "/for/{token}/links.xlsx", Who.Anybody),
        ("GET", "/for/{token}/codes/{id:guid}.svg", Who.Anybody),

        ("GET", "/api/v1/campaigns", Who.Readers),
        ("POST", "/api/v1/campaigns", Who.Builders),
        ("POST", "/api/v1/campaigns/preview", Who.Readers),
        ("GET", "/api/v1/campaigns/{id:guid}", Who.Readers),
        ("PUT", "/api/v1/campaigns/{id:guid}", Who.Builders),
        ("DELETE", "/api/v1/campaigns/{id:guid}", Who.Builders),
        ("POST", "/api/v1/campaigns/{id:guid}/archive", Who.Builders),
        ("POST", "/api/v1/campaigns/{id:guid}/bring-back", Who.Builders),
        ("POST", "/api/v1/campaigns/{id:guid}/next-season", Who.Builders),
        ("PUT", "/api/v1/campaigns/{id:guid}/planned", Who.Builders),
        ("POST", "/api/v1/campaigns/{id:guid}/planned/make", Who.Builders),
        ("POST", "/api/v1/campaigns/{id:guid}/planned/read-sheet", Who.Builders),
        ("GET", "/api/v1/campaigns/{id:guid}/planned.csv", Who.Readers),
        ("GET", "/api/v1/campaigns/{id:guid}/planned.xlsx", Who.Readers),
        ("GET", "/api/v1/campaign-attributes", Who.Readers),
        ("PUT", "/api/v1/campaign-attributes", Who.Builders),
        ("GET", "/api/v1/placements", Who.Readers),
        ("POST", "/api/v1/placements", Who.Builders),
        ("PUT", "/api/v1/placements/{id:guid}", Who.Builders),
        ("POST", "/api/v1/placements/{id:guid}/retire", Who.Builders),
        ("POST", "/api/v1/placements/{id:guid}/offer-again", Who.Builders),
        ("POST", "/api/v1/placements/{id:guid}/merge", Who.Builders),
        ("GET", "/api/v1/placement-sets", Who.Readers),
        ("POST", "/api/v1/placement-sets", Who.Builders),
        ("PUT", "/api/v1/placement-sets/{id:guid}", Who.Builders),
        ("DELETE", "/api/v1/placement-sets/{id:guid}", Who.Builders),
        ("GET", "/api/v1/pages", Who.Readers),
        ("POST", "/api/v1/pages", Who.Builders),
        ("DELETE", "/api/v1/pages/{id:guid}", Who.Builders),
        ("POST", "/api/v1/sites/{id:guid}/read-sitemap", Who.Builders),
        ("GET", "/api/v1/share-texts", Who.Readers),
        ("POST", "/api/v1/share-texts/fill", Who.Readers),
        ("PUT", "/api/v1/share-texts", Who.Builders),
        ("POST", "/api/v1/links/{id:guid}/placed", Who.Builders),
        ("GET", "/api/v1/hand-overs", Who.Readers),
        ("POST", "/api/v1/hand-overs", Who.Builders),
        ("POST", "/api/v1/hand-overs/{id:guid}/revoke", Who.Builders),
        ("GET", "/api/v1/find", Who.Readers),
        ("POST", "/api/v1/links/compose", Who.Readers),
        ("POST", "/api/v1/links/compose-many", Who.Readers),
        ("POST", "/api/v1/links/snippet", Who.Readers),
        ("POST", "/api/v1/links/inspect", Who.Readers),
        ("POST", "/api/v1/links/inspect-many", Who.Readers),
        ("POST", "/api/v1/links", Who.Builders),
        ("POST", "/api/v1/links/many", Who.Builders),
        ("POST", "/api/v1/links/many/with-progress", Who.Builders),
        ("GET", "/api/v1/links", Who.Readers),
        ("GET", "/api/v1/links/{id:guid}", Who.Readers),
        ("GET", "/api/v1/links/{id:guid}/code.svg", Who.Readers),
        ("GET", "/api/v1/links/{id:guid}/code.png", Who.Readers),
        ("GET", "/api/v1/hosts", Who.Readers),
        ("POST", "/api/v1/hosts/{id:guid}/approve", Who.Owner),
        ("GET", "/api/v1/shorten", Who.Shortener),
        ("GET", "/api/v1/arrivals", Who.Readers),
    ];

    private static readonly FrozenDictionary<(string, string), Who> ByRoute = Lines.ToFrozenDictionary(l => (l.Method, l.Route), l => l.Who);

    /// <summary>Who may call an endpoint; null when it has no line.</summary>
    public static Who? Find(string method, string route) => ByRoute.TryGetValue((method, "/" + route.Trim('/')), out var who) ? who : null;
}
