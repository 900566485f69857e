namespace PreciseBeacon.StandIns.Ads;

/// <summary>An advertisement of the account.</summary>
public sealed record Ad(string Number, string Group, string Title, string Text, string ShownAddress, string Destination);
