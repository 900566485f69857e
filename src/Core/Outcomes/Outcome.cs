using System.Diagnostics.CodeAnalysis;

namespace PreciseBeacon.Core.Outcomes;

/// <summary>What came of something that may be refused, whatever its value.</summary>
public interface IOutcome
{
    /// <summary>The value; null when it was refused.</summary>
    object? Value { get; }

    /// <summary>Why it was not done; null when it was.</summary>
    Refusal? Refusal { get; }
}

/// <summary>What came of something that may be refused: its value, or why there is none.</summary>
/// <typeparam name="T">The value.</typeparam>
public readonly struct Outcome<T> : IOutcome
    where T : notnull
{
    internal Outcome(T? value, Refusal? refusal) => (Value, Refusal) = (value, refusal);

    /// <summary>The value; the type's default when it was refused.</summary>
    public T? Value { get; }

    /// <summary>Why it was not done; null when it was.</summary>
    public Refusal? Refusal { get; }

    /// <summary>True when there is no value.</summary>
    [MemberNotNullWhen(true, nameof(Refusal))]
    [MemberNotNullWhen(false, nameof(Value))]
    public bool IsRefused => Refusal is not null;

    object? IOutcome.Value => Value;

    public static implicit operator Outcome<T>(T value) => new(value, null);

    public static implicit operator Outcome<T>(Refusal refusal) => new(default, refusal);

    public void Deconstruct(out T? value, out Refusal? refusal) => (value, refusal) = (Value, Refusal);

    /// <summary>The outcome with its value turned into another; a refusal stays one.</summary>
    public Outcome<TOther> Then<TOther>(Func<T, TOther> turn)
        where TOther : notnull => IsRefused ? Refusal : new Outcome<TOther>(turn(Value), null);
}

/// <summary>Makes outcomes where the compiler can't tell them, as of lists behind an interface.</summary>
public static class Outcome
{
    /// <summary>What was asked for was done.</summary>
    public static Outcome<T> Of<T>(T value)
        where T : notnull => new(value, null);

    /// <summary>The value, or that there is no such thing.</summary>
    /// <param name="value">What was looked for, or null.</param>
    /// <param name="what">What it is called, as in “campaign”.</param>
    public static Outcome<T> Found<T>(T? value, string what)
        where T : class => value is null ? Refusal.NotFound(what) : new Outcome<T>(value, null);
}
