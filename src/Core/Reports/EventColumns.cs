namespace PreciseBeacon.Core.Reports;

/// <summary>How often pages named which event during a visit.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Name">The event's name.</param>
/// <param name="Times">At least 1.</param>
public readonly record struct EventFacts(Guid VisitId, string Name, int Times);

/// <summary>The named events of some visits, column by column.</summary>
public sealed class EventColumns
{
    public static readonly EventColumns None = new([], [], [], []);

    private readonly ushort[] _visits;
    private readonly int[] _names;
    private readonly int[] _times;

    private EventColumns(ushort[] visits, int[] names, int[] times, string[] nameTable)
    {
        _visits = visits;
        _names = names;
        _times = times;
        Names = nameTable;
    }

    /// <summary>How many rows: one for each visit and name.</summary>
    public int Count => _visits.Length;

    /// <summary>The names that occur, each once.</summary>
    public IReadOnlyList<string> Names { get; }

    internal int Bytes => 100 + (10 * Count) + (50 * Names.Count);

    /// <summary>Which of the visits a row belongs to.</summary>
    public int VisitOf(int row) => _visits[row];

    /// <summary>Place of its name in <see cref="Names"/>.</summary>
    public int NameOf(int row) => _names[row];

    /// <summary>How often the visit had it.</summary>
    public int TimesOf(int row) => _times[row];

    internal static EventColumns Of(IReadOnlyList<(ushort Visit, EventFacts Facts)> rows)
    {
        var (names, table) = NameTable.Of(rows.Select(r => r.Facts.Name));
        return rows.Count == 0 ? None : new([.. rows.Select(r => r.Visit)], names, [.. rows.Select(r => r.Facts.Times)], table);
    }

    internal static EventColumns Read(BinaryReader reader)
    {
        int count = reader.ReadInt32();
        return new EventColumns(
            Packed.Read<ushort>(reader, count),
            Packed.Read<int>(reader, count),
            Packed.Read<int>(reader, count),
            NameTable.Read(reader)
        );
    }

    internal void Write(BinaryWriter writer)
    {
        writer.Write(Count);
        Packed.Write<ushort>(writer, _visits);
        Packed.Write<int>(writer, _names);
        Packed.Write<int>(writer, _times);
        NameTable.Write(writer, (string[])Names);
    }
}
