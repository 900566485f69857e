namespace PreciseBeacon.Core.Reports;

/// <summary>The conversions of some visits, column by column.</summary>
public sealed class ConversionColumns
{
    private readonly ushort[] _visits;
    private readonly int[] _kinds;
    private readonly int[] _currencies;
    private readonly byte[] _verified;
    private readonly decimal[] _values;
    private readonly string[] _kindNames;
    private readonly string[] _currencyNames;

    private ConversionColumns(
        ushort[] visits,
        int[] kinds,
        int[] currencies,
        byte[] verified,
        decimal[] values,
        string[] kindNames,
        string[] currencyNames
    )
    {
        _visits = visits;
        _kinds = kinds;
        _currencies = currencies;
        _verified = verified;
        _values = values;
        _kindNames = kindNames;
        _currencyNames = currencyNames;
    }

    /// <summary>How many conversions.</summary>
    public int Count => _visits.Length;

    internal int Bytes => 100 + (Count * (11 + sizeof(decimal))) + (50 * (_kindNames.Length + _currencyNames.Length));

    /// <summary>Which of the visits a conversion belongs to.</summary>
    public int VisitOf(int conversion) => _visits[conversion];

    /// <summary>The kinds that occur, each once.</summary>
    public IReadOnlyList<string> Kinds => _kindNames;

    /// <summary>Its kind.</summary>
    public string KindOf(int conversion) => _kindNames[_kinds[conversion]];

    /// <summary>Place of its kind in <see cref="Kinds"/>.</summary>
    public int KindPlaceOf(int conversion) => _kinds[conversion];

    /// <summary>ISO 4217; empty where none was said, which is the workspace's.</summary>
    public string CurrencyOf(int conversion) => _currencyNames[_currencies[conversion]];

    /// <summary>Its value in that currency.</summary>
    public decimal ValueOf(int conversion) => _values[conversion];

    /// <summary>True where the shop's server sent it signed.</summary>
    public bool IsVerified(int conversion) => _verified[conversion] != 0;

    internal static ConversionColumns Of(IReadOnlyList<(ushort Visit, ConversionFacts Facts)> rows)
    {
        var (kinds, kindNames) = NameTable.Of(rows.Select(r => r.Facts.Kind));
        var (currencies, currencyNames) = NameTable.Of(rows.Select(r => r.Facts.Currency));
        return new ConversionColumns(
            [.. rows.Select(r => r.Visit)],
            kinds,
            currencies,
            [.. rows.Select(r => (byte)(r.Facts.Verified ? 1 : 0))],
            [.. rows.Select(r => r.Facts.Value)],
            kindNames,
            currencyNames
        );
    }

    internal static ConversionColumns Read(BinaryReader reader)
    {
        int count = reader.ReadInt32();
        return new ConversionColumns(
            Packed.Read<ushort>(reader, count),
            Packed.Read<int>(reader, count),
            Packed.Read<int>(reader, count),
            Packed.Read<byte>(reader, count),
            [.. Enumerable.Range(0, count).Select(_ => reader.ReadDecimal())],
            NameTable.Read(reader),
            NameTable.Read(reader)
        );
    }

    internal void Write(BinaryWriter writer)
    {
        writer.Write(Count);
        Packed.Write<ushort>(writer, _visits);
        Packed.Write<int>(writer, _kinds);
        Packed.Write<int>(writer, _currencies);
        writer.Write(_verified);
        foreach (decimal value in _values)
        {
            writer.Write(value);
        }

        NameTable.Write(writer, _kindNames);
        NameTable.Write(writer, _currencyNames);
    }
}
