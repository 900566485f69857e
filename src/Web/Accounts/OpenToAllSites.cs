namespace PreciseBeacon.Web.Accounts;

/// <summary>Marks an endpoint that pages of any site may send to. It reads no cookie, so there is nothing to forge.</summary>
public sealed record OpenToAllSites;
