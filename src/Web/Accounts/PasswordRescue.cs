using Microsoft.Extensions.Options;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>
/// The way back in for the only owner who forgot their password: whoever runs the application names them at its start, and reads a link
/// for a new password on its console.
/// </summary>
public sealed class PasswordRescue(
    DatabaseSetup setup,
    IServiceScopeFactory scopes,
    IOptions<BeaconOptions> options,
    ILogger<PasswordRescue> log
) : DatabaseWorker(setup)
{
    protected override async Task WorkAsync(CancellationToken stopping)
    {
        if (options.Value.NewPasswordFor?.Trim() is not { Length: > 0 } mail)
        {
            return;
        }

        await using var scope = scopes.CreateAsyncScope();
        var invitations = scope.ServiceProvider.GetRequiredService<InvitationBook>();
        var member = await invitations.SpeakForAsync(mail, stopping);
        if (member is null)
        {
            log.LogError("Nobody has the mail address {Mail}, so there is no link for a new password.", mail);
            return;
        }

        var made = (await invitations.MakeAsync(member.User!.Email!, member.Role, member.UserId, stopping)).Value;
        log.LogWarning("{Mail} chooses a new password at {Address}, once, until {ExpiresAt:u}.", mail, made?.Address, made?.ExpiresAt);
    }
}
