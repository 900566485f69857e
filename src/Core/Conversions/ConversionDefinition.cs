using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.Conversions;

/// <summary>What an owner counts as a conversion without touching a page's code: a page reached, or an event named.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Kind">The kind of conversion it makes.</param>
/// <param name="Test">What is looked at.</param>
/// <param name="Text">The page as <see cref="DefinedPage.Read"/> gives it, or the event's name.</param>
public sealed record ConversionDefinition(Guid Id, string Kind, ConversionTest Test, string Text)
{
    /// <summary>What each is worth; null for nothing, or where the event says it.</summary>
    public decimal? Value { get; init; }

    /// <summary>Currency of <see cref="Value"/>, ISO 4217.</summary>
    public string? Currency { get; init; }

    /// <summary>The value is what the event brought.</summary>
    public bool TakesValue { get; init; }

    /// <summary>Every time counts; else once in a visit, so that loading the page again adds nothing.</summary>
    public bool CountsEach { get; init; }

    /// <summary>The conversion that a view or an event of a visit makes.</summary>
    /// <param name="item">The view or event. The conversion's id comes from its own, so that working out again gives the same.</param>
    public RawPageEvent Of(RawPageEvent item) =>
        item with
        {
            Id = DerivedId(item.Id),
            Kind = PageEventKind.Conversion,
            Name = Kind,
            OrderId = null,
            Items = null,
            Value = TakesValue ? item.Value : Value,
            Currency =
                TakesValue ? item.Currency
                : Value is null ? null
                : Currency,
        };

    private Guid DerivedId(Guid of)
    {
        Span<byte> one = stackalloc byte[16],
            other = stackalloc byte[16];
        of.TryWriteBytes(one);
        Id.TryWriteBytes(other);
        for (int i = 0; i < one.Length; i++)
        {
            one[i] ^= other[i];
        }

        return new Guid(one);
    }
}

/// <summary>What a conversion is told by.</summary>
public enum ConversionTest : byte
{
    /// <summary>One page was reached.</summary>
    Page,

    /// <summary>A page was reached whose address begins like this.</summary>
    PageBegins,

    /// <summary>A page was reached whose address is like this, <c>*</c> standing for anything.</summary>
    PagePattern,

    /// <summary>An event of this name came.</summary>
    Event,
}
