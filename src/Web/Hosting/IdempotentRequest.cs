using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;

namespace PreciseBeacon.Web.Hosting;

/// <summary>
/// Does a piece of work in one transaction and, where the caller named a key, once only: the same request again gets
/// the first answer, also when both come at the same moment.
/// </summary>
public sealed class IdempotentRequest(BeaconDb db, IdempotentAnswers answers, IOptions<JsonOptions> json)
{
    private const int LongestKey = 200;
    private const int MostTries = 4;

    /// <summary>How long answers are kept for requests that come again; long enough for any program that tries again (ours).</summary>
    public static readonly TimeSpan KeptFor = TimeSpan.FromHours(24);

    /// <summary>Runs the work, or gives back what it gave the first time.</summary>
    /// <param name="key">The Idempotency-Key; empty runs the work every time.</param>
    /// <param name="request">What was asked; another request under the same key is refused.</param>
    /// <param name="work">The work; where it is refused nothing is stored.</param>
    /// <param name="cancel">Gives up before the transaction is committed.</param>
    public async Task<Outcome<T>> RunAsync<T>(string? key, object request, Func<Task<Outcome<T>>> work, CancellationToken cancel)
        where T : class
    {
        if (key?.Length > LongestKey)
        {
            return Refusal.Invalid("key-too-long", $"An Idempotency-Key has at most {LongestKey} characters.");
        }

        for (int attempt = 1; ; attempt++)
        {
            try
            {
                return await TryAsync(key, request, work, cancel);
            }
            catch (Exception clash) when (attempt < MostTries && DatabaseSetup.IsStandoff(clash))
            {
                // The database gave one of two up who waited for each other. It is as if this one had not come yet.
                db.ChangeTracker.Clear();
            }
        }
    }

    private async Task<Outcome<T>> TryAsync<T>(string? key, object request, Func<Task<Outcome<T>>> work, CancellationToken cancel)
        where T : class
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (string.IsNullOrEmpty(key))
        {
            return await FinishAsync();
        }

        byte[] hash = SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(request, json.Value.SerializerOptions));

        if (await answers.TakeAsync(key, hash, cancel))
        {
            return await FinishAsync(answer =>
                answers.KeepAsync(key, JsonSerializer.Serialize(answer, json.Value.SerializerOptions), cancel)
            );
        }

        var first = await db.IdempotentAnswers.AsNoTracking().SingleAsync(a => a.Key == key, cancel);
        return first.RequestHash.AsSpan().SequenceEqual(hash)
            ? JsonSerializer.Deserialize<T>(first.Answer, json.Value.SerializerOptions)!
            : Refusal.Unacceptable("key-reused", "This Idempotency-Key was used for another request; make a new one.");

        async Task<Outcome<T>> FinishAsync(Func<T, Task>? keep = null)
        {
            var outcome = await work();
            if (outcome.IsRefused)
            {
                return outcome;
            }

            await (keep?.Invoke(outcome.Value) ?? Task.CompletedTask);
            await transaction.CommitAsync(cancel);
            return outcome;
        }
    }
}
