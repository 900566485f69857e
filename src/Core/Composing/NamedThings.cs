namespace PreciseBeacon.Core.Composing;

/// <summary>Things that people and programs name by id or by name, whatever the case; where two have one name, the last is meant.</summary>
/// <typeparam name="T">The thing.</typeparam>
public sealed class NamedThings<T>
    where T : class
{
    private readonly Dictionary<string, T> _byName = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>The things with their ids and names.</summary>
    public NamedThings(IEnumerable<T> things, Func<T, Guid> id, Func<T, string> name)
    {
        foreach (var thing in things)
        {
            _byName[id(thing).ToString()] = thing;
            _byName[name(thing)] = thing;
        }
    }

    /// <summary>The thing of a name or id, white space around it apart; null for nothing, and for a name nobody knows.</summary>
    public T? Find(string? named) => string.IsNullOrWhiteSpace(named) ? null : _byName.GetValueOrDefault(named.Trim());

    /// <summary>False where something is named that nobody knows.</summary>
    /// <param name="named">Id or name; null or empty for nothing.</param>
    /// <param name="found">The thing; null for nothing.</param>
    public bool TryFind(string? named, out T? found) => (found = Find(named)) is not null || string.IsNullOrWhiteSpace(named);
}
