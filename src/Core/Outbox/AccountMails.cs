using System.Globalization;

namespace PreciseBeacon.Core.Outbox;

/// <summary>Mails about joining and about passwords.</summary>
public static class AccountMails
{
    /// <summary>Somebody is invited.</summary>
    /// <param name="invitedBy">Who invites them.</param>
    /// <param name="workspace">What the workspace is called.</param>
    /// <param name="role">What they become, such as <c>editor</c>.</param>
    /// <param name="address">The link that works once.</param>
    /// <param name="until">When it ends by itself.</param>
    public static OutgoingMail Invitation(string invitedBy, string workspace, string role, string address, DateTimeOffset until) =>
        OutgoingMail.Create(
            MailKinds.Invitation,
            $"{invitedBy} invites you to {workspace}",
            [
                $"{invitedBy} invites you to the workspace {workspace} as {role}.",
                $"The link works once, until {At(until)}. Do not pass it on: whoever opens it first joins in your place.",
            ],
            $"You get this mail because {invitedBy} typed your address. If you do not expect it, do nothing; nobody writes to you again.",
            "Join the workspace",
            address
        );

    /// <summary>An owner lets a member choose a new password.</summary>
    public static OutgoingMail Reset(string madeBy, string workspace, string address, DateTimeOffset until) =>
        OutgoingMail.Create(
            MailKinds.Reset,
            $"Choose a new password for {workspace}",
            [
                $"{madeBy} made you a link by which you choose a new password.",
                $"The link works once, until {At(until)}. Your old password works until you choose a new one.",
            ],
            $"You get this mail because you are a member of {workspace}.",
            "Choose a new password",
            address
        );

    /// <summary>Somebody says that they forgot their password.</summary>
    public static OutgoingMail Forgotten(string workspace, string address, DateTimeOffset until) =>
        OutgoingMail.Create(
            MailKinds.Forgotten,
            "Choose a new password",
            [
                $"Somebody asked for a new password for your account in {workspace}.",
                $"The link works once, until {At(until)}. Your old password works until you choose a new one.",
            ],
            "Somebody typed your address on the sign-in page. If that was not you, do nothing.",
            "Choose a new password",
            address
        );

    /// <summary>An owner tries whether mails go out.</summary>
    public static OutgoingMail Test(string workspace, string address) =>
        OutgoingMail.Create(
            MailKinds.Test,
            $"A test mail from {workspace}",
            ["Mails go out. This one was sent to show it."],
            "You get this mail because you asked for it.",
            "Open the workspace",
            address
        );

    /// <summary>The same for every reader, wherever they are.</summary>
    private static string At(DateTimeOffset moment) =>
        moment.UtcDateTime.ToString("d MMMM yyyy, HH:mm 'UTC'", CultureInfo.InvariantCulture);
}
