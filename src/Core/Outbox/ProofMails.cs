using System.Globalization;

namespace PreciseBeacon.Core.Outbox;

/// <summary>Mails about what went wrong.</summary>
public static class ProofMails
{
    /// <summary>Findings a mail names; it counts the others.</summary>
    public const int MostNamed = 10;

    /// <summary>A check of pages found something new.</summary>
    /// <param name="workspace">What the workspace is called.</param>
    /// <param name="findings">New findings, the gravest first, at most <see cref="MostNamed"/>.</param>
    /// <param name="count">How many are new in all; at least one.</param>
    /// <param name="address">Where they are listed.</param>
    /// <param name="stop">Where such mails are ended.</param>
    public static OutgoingMail PageFindings(
        string workspace,
        IReadOnlyList<(string Page, string Says)> findings,
        long count,
        string address,
        string stop
    )
    {
        string number = count.ToString("N0", CultureInfo.InvariantCulture);
        string what = count == 1 ? "1 new finding" : $"{number} new findings";
        return OutgoingMail.Create(
            MailKinds.PageFindings,
            $"{what} on pages of {workspace}",
            [
                $"The check of the pages your links lead to has {what}.",
                .. findings.Select(f => $"{f.Page}: {f.Says}"),
                .. count > findings.Count
                    ? (IEnumerable<string>)[$"And {(count - findings.Count).ToString("N0", CultureInfo.InvariantCulture)} more."]
                    : [],
            ],
            $"You get this mail because you asked for new findings in {workspace}.",
            "Open the page checks",
            address
        ) with
        {
            StopAddress = stop,
        };
    }
}
