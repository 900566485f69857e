namespace PreciseBeacon.StandIns.Inbox;

/// <summary>A mail that came in.</summary>
/// <param name="Number">Its number, from 1.</param>
/// <param name="Subject">Its subject.</param>
/// <param name="From">Who it says it is from.</param>
/// <param name="To">Who it says it is for; empty where it does not say.</param>
/// <param name="Html">Its HTML as a mail reader gets it.</param>
/// <param name="At">When it came.</param>
public sealed record ReceivedMail(int Number, string Subject, string From, string To, string Html, DateTimeOffset At);
