using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Conversions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Conversions;

/// <summary>What the owner counts as a conversion: defined, tried on the past, changed, and found in what is still kept one by one.</summary>
public sealed class ConversionKindStore(
    BeaconDb db,
    DefinedConversions conversions,
    NewTagKeys raw,
    AuditLog auditLog,
    NpgsqlDataSource database,
    TimeProvider clock
)
{
    private const int WaitingShown = 10;

    private const string What = "conversion-kind";
    private const int LongestName = 100;
    private const decimal LargestValue = 1_000_000_000m;

    private Guid Workspace => db.CurrentWorkspaceId!.Value;

    /// <summary>Every kind, by name: the defined ones, and those that pages or servers report themselves.</summary>
    public async Task<ConversionKindsAnswer> ListAsync(CancellationToken cancel)
    {
        string currency = await CurrencyAsync(cancel);
        var kinds = await db.ConversionKinds.AsNoTracking().OrderBy(k => k.Name).ToListAsync(cancel);
        var counts = await conversions.CountAsync(Workspace, clock.GetUtcNow(), cancel);
        var (refunds, waitingRefunds) = await RefundReader.WaitingAsync(database, Workspace, WaitingShown, cancel);
        var defined = kinds.Select(k => k.Name).ToHashSet(StringComparer.Ordinal);
        return new ConversionKindsAnswer(
            kinds.ConvertAll(k => AnswerOf(k, currency, counts)),
            [
                .. counts
                    .Where(c => !defined.Contains(c.Key))
                    .OrderByDescending(c => c.Value)
                    .ThenBy(c => c.Key, StringComparer.Ordinal)
                    .Select(c => new ReportedKind(c.Key, c.Value)),
            ],
            await db.ConversionMonths.CountAsync(cancel),
            currency,
            waitingRefunds,
            [.. refunds.Select(r => new WaitingRefundAnswer(r.OrderId, r.Day, Money.Of(r.Value, r.Currency)))]
        );
    }

    /// <summary>What a definition would have found; nothing is changed.</summary>
    public async Task<Outcome<DefinitionTrial>> TryAsync(ConversionKindRequest request, CancellationToken cancel)
    {
        var (definition, refusal) = Read(request, Guid.Empty, "");
        return definition is null ? refusal! : await conversions.TryAsync(Workspace, definition, clock.GetUtcNow(), cancel);
    }

    /// <summary>Defines a kind.</summary>
    public async Task<Outcome<ConversionKindAnswer>> AddAsync(ConversionKindRequest request, CancellationToken cancel)
    {
        if (await db.ConversionKinds.CountAsync(cancel) >= ConversionDefinitions.Most)
        {
            return Refusal.Unacceptable("kinds-many", $"A workspace has at most {ConversionDefinitions.Most:N0} kinds of conversions.");
        }

        var kind = new ConversionKind
        {
            Name = "",
            Text = "",
            MadeBy = auditLog.Who,
            MadeAt = clock.GetUtcNow(),
        };
        db.ConversionKinds.Add(kind);
        return await PutAsync(kind, request, before: null, cancel);
    }

    /// <summary>Changes a kind; what it found before is worked out again.</summary>
    public async Task<Outcome<ConversionKindAnswer>> ChangeAsync(Guid id, ConversionKindRequest request, CancellationToken cancel) =>
        await db.ConversionKinds.SingleOrDefaultAsync(k => k.Id == id, cancel) is { } kind
            ? await PutAsync(kind, request, SaysOf(kind), cancel)
            : Refusal.NotFound("kind of conversion");

    /// <summary>Removes a kind, and its conversions wherever raw events still say what there was.</summary>
    public async Task<Refusal?> RemoveAsync(Guid id, CancellationToken cancel)
    {
        if (await db.ConversionKinds.SingleOrDefaultAsync(k => k.Id == id, cancel) is not { } kind)
        {
            return Refusal.NotFound("kind of conversion");
        }

        db.ConversionKinds.Remove(kind);
        auditLog.Add(What, id, SaysOf(kind), null);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await SaveAsync([(kind.Test, kind.Text)], cancel);
        await transaction.CommitAsync(cancel);
        return null;
    }

    private async Task<Outcome<ConversionKindAnswer>> PutAsync(
        ConversionKind kind,
        ConversionKindRequest request,
        object? before,
        CancellationToken cancel
    )
    {
        string currency = await CurrencyAsync(cancel);
        var (definition, refusal) = Read(request, kind.Id, currency);
        if (definition is null)
        {
            return refusal!;
        }

        // Two who define the same in the same moment follow each other.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await RowLock.WorkspaceAsync(db, cancel);
        if (await db.ConversionKinds.AnyAsync(k => k.Id != kind.Id && k.Name == definition.Kind, cancel))
        {
            return Refusal.Conflict("kind-taken", $"There is a kind “{definition.Kind}” already; change that one, or choose another name.");
        }

        var counts = await conversions.CountAsync(Workspace, clock.GetUtcNow(), cancel);
        if (before is null && counts.ContainsKey(definition.Kind))
        {
            return Refusal.Conflict(
                "kind-reported",
                $"Pages report conversions called “{definition.Kind}” themselves, so both would count; choose another name."
            );
        }

        (ConversionTest Test, string Text)[] looked = before is null
            ? [(definition.Test, definition.Text)]
            : [.. new[] { (kind.Test, kind.Text), (definition.Test, definition.Text) }.Distinct()];
        (kind.Name, kind.Test, kind.Text) = (definition.Kind, definition.Test, definition.Text);
        (kind.Value, kind.TakesValue, kind.CountsEach) = (definition.Value, definition.TakesValue, definition.CountsEach);
        auditLog.Add(What, kind.Id, before, SaysOf(kind));
        await SaveAsync(looked, cancel);
        await transaction.CommitAsync(cancel);
        return AnswerOf(kind, currency, counts);
    }

    /// <summary>Stores what changed, in the caller's transaction, and has every month that is kept one by one looked through for it.</summary>
    private async Task SaveAsync(IReadOnlyCollection<(ConversionTest Test, string Text)> looked, CancellationToken cancel)
    {
        foreach (var month in await raw.MonthsAsync(Workspace, cancel))
        {
            db.ConversionMonths.AddRange(
                looked.Select(l => new ConversionMonth
                {
                    Month = month,
                    Test = l.Test,
                    Text = l.Text,
                })
            );
        }

        await db.SaveChangesAsync(cancel);
        await db
            .Workspaces.Where(w => w.Id == Workspace)
            .ExecuteUpdateAsync(w => w.SetProperty(x => x.ConversionsStamp, Guid.NewGuid()), cancel);
    }

    private static Outcome<ConversionDefinition> Read(ConversionKindRequest request, Guid id, string currency)
    {
        string name = InvisibleText.Remove(request.Name ?? "").Trim();
        if (name.Length is 0 or > LongestName)
        {
            return Refusal.Invalid("kind-name", $"Name the kind of conversion, such as newsletter, in at most {LongestName} characters.");
        }

        var test = request.Test ?? ConversionTest.Page;
        string? text;
        if (test == ConversionTest.Event)
        {
            text = request.Text?.Trim();
            if (text is not { Length: > 0 and <= LongestName })
            {
                return Refusal.Invalid("kind-event", $"Give the event’s name as the page sends it, in at most {LongestName} characters.");
            }
        }
        else
        {
            (text, string? problem) = DefinedPage.Read(test, request.Text);
            if (text is null)
            {
                return Refusal.Invalid("kind-page", problem!);
            }
        }

        if (request.Value is { } value && (value < 0 || value > LargestValue || decimal.Round(value, 4) != value))
        {
            return Refusal.Invalid(
                "kind-value",
                $"A value is a number of 0 to {LargestValue.ToString("N0", CultureInfo.InvariantCulture)}, with four decimals at most."
            );
        }

        if (request.TakesValue == true && (test != ConversionTest.Event || request.Value is not null))
        {
            return Refusal.Invalid("kind-value", "The value is either fixed or what the event brings; a page brings none.");
        }

        return new ConversionDefinition(id, name, test, text)
        {
            Value = request.Value,
            Currency = currency,
            TakesValue = request.TakesValue ?? false,
            CountsEach = request.CountsEach ?? false,
        };
    }

    private Task<string> CurrencyAsync(CancellationToken cancel) =>
        db.Workspaces.Where(w => w.Id == Workspace).Select(w => w.Currency).SingleAsync(cancel);

    private static object SaysOf(ConversionKind kind) =>
        new
        {
            kind.Name,
            kind.Test,
            kind.Text,
            kind.Value,
            kind.TakesValue,
            kind.CountsEach,
        };

    private static ConversionKindAnswer AnswerOf(ConversionKind kind, string currency, IReadOnlyDictionary<string, long> counts) =>
        new(
            kind.Id,
            kind.Name,
            kind.Test,
            kind.Text,
            kind.Value is { } value ? Money.Of(value, currency) : null,
            kind.TakesValue,
            kind.CountsEach,
            counts.GetValueOrDefault(kind.Name),
            kind.MadeBy,
            kind.MadeAt
        );
}
