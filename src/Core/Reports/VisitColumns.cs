using System.Text;

namespace PreciseBeacon.Core.Reports;

/// <summary>A visit as reports need it: the ids of what it refers to, and its numbers.</summary>
/// <param name="Id">Its id, by which its conversions find it; it is not kept.</param>
/// <param name="Visitor">Its visitor.</param>
/// <param name="SourceId">The traffic source.</param>
/// <param name="LandingPageId">The first page.</param>
/// <param name="LastPageId">The last page.</param>
/// <param name="PlaceId">Where its visitor was.</param>
/// <param name="DeviceId">The device.</param>
/// <param name="Hour">0 to 23, in the workspace's zone.</param>
/// <param name="PageViews">How many pages were seen.</param>
/// <param name="Events">How many events pages named.</param>
/// <param name="Seconds">How long it lasted.</param>
/// <param name="Conversions">How many conversions it has.</param>
/// <param name="HasId">Its visitor is known by an id of the site's own.</param>
/// <param name="Bounced">One page view and no conversion.</param>
/// <param name="IsNew">It is the first visit known of a visitor with an id.</param>
/// <param name="FirstSourceId">The traffic source of that visitor's first visit known; 0 where the visitor has no id.</param>
/// <param name="Start">When it began, in seconds since its day's 00:00 UTC; the day is that of the workspace's zone.</param>
public readonly record struct VisitFacts(
    Guid Id,
    Guid Visitor,
    int SourceId,
    int LandingPageId,
    int LastPageId,
    int PlaceId,
    int DeviceId,
    int Hour,
    int PageViews,
    int Events,
    int Seconds,
    int Conversions,
    bool HasId,
    bool Bounced,
    bool IsNew = false,
    int FirstSourceId = 0,
    int Start = 0
);

/// <summary>A conversion of a visit.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Kind">Its kind.</param>
/// <param name="Currency">ISO 4217; empty where none was said, which is the workspace's.</param>
/// <param name="Value">Its value in that currency.</param>
/// <param name="Verified">The shop's server sent it signed.</param>
public readonly record struct ConversionFacts(Guid VisitId, string Kind, string Currency, decimal Value, bool Verified);

/// <summary>
/// Visits of one day, column by column, so that ten million of them are gone through in a moment: an id or number takes one or two bytes a
/// visit, and lies beside those of the next visit. Never changed once made.
/// </summary>
public sealed class VisitColumns
{
    /// <summary>So many visits at most: places of ids are kept in 16 bits.</summary>
    public const int Most = ushort.MaxValue;

    private const byte Format = 4;
    private const byte WithoutStarts = 3;
    private const byte WithoutNamedEvents = 2;
    private const int SecondsAnHour = 3_600;
    private const int SecondsADay = 24 * SecondsAnHour;
    private const byte HasId = 1;
    private const byte Bounced = 2;
    private const byte Converting = 4;
    private const byte IsNew = 8;

    private readonly IdColumn _source;
    private readonly IdColumn _landingPage;
    private readonly IdColumn _lastPage;
    private readonly IdColumn _place;
    private readonly IdColumn _device;
    private readonly IdColumn _hour;
    private readonly byte[] _flags;
    private readonly ulong[] _visitors;
    private readonly IdColumn? _firstSource;
    private readonly NumberColumn? _starts;

    private VisitColumns(
        IdColumn source,
        IdColumn landingPage,
        IdColumn lastPage,
        IdColumn place,
        IdColumn device,
        IdColumn hour,
        byte[] flags,
        NumberColumn pageViews,
        NumberColumn events,
        NumberColumn seconds,
        ulong[] visitors,
        ConversionColumns conversions,
        EventColumns namedEvents,
        IdColumn? firstSource,
        NumberColumn? starts
    )
    {
        _source = source;
        _landingPage = landingPage;
        _lastPage = lastPage;
        _place = place;
        _device = device;
        _hour = hour;
        _flags = flags;
        PageViews = pageViews;
        Events = events;
        Seconds = seconds;
        _visitors = visitors;
        Conversions = conversions;
        NamedEvents = namedEvents;
        _firstSource = firstSource;
        _starts = starts;
    }

    /// <summary>How many visits.</summary>
    public int Count => _flags.Length;

    public NumberColumn PageViews { get; }

    public NumberColumn Events { get; }

    public NumberColumn Seconds { get; }

    public ConversionColumns Conversions { get; }

    /// <summary>Which events pages named; none for visits that were packed before names were kept.</summary>
    public EventColumns NamedEvents { get; }

    /// <summary>For each visit 64 bits that stand for its visitor; see <see cref="DistinctVisitors"/>.</summary>
    public ReadOnlySpan<ulong> Visitors => _visitors;

    /// <summary>About how much memory it takes.</summary>
    public int Bytes =>
        200
        + _source.Bytes
        + _landingPage.Bytes
        + _lastPage.Bytes
        + _place.Bytes
        + _device.Bytes
        + _hour.Bytes
        + Count
        + PageViews.Bytes
        + Events.Bytes
        + Seconds.Bytes
        + (sizeof(ulong) * Count)
        + Conversions.Bytes
        + NamedEvents.Bytes
        + (_firstSource?.Bytes ?? 0)
        + (_starts?.Bytes ?? 0);

    /// <summary>When a visit began; those packed before this was kept began with their hour.</summary>
    /// <param name="visit">Its place.</param>
    /// <param name="day">The day of all of them.</param>
    /// <returns>Seconds since 0001-01-01 00:00 UTC.</returns>
    public long AtOf(int visit, DateOnly day) =>
        ((long)day.DayNumber * SecondsADay) + (_starts is { } starts ? starts[visit] : _hour[visit] * SecondsAnHour);

    /// <summary>For each visit its id in a table; hours go by their number.</summary>
    /// <exception cref="ArgumentOutOfRangeException">All of them are of one day, which is not kept here.</exception>
    public IdColumn IdsOf(RowTable table) =>
        table switch
        {
            RowTable.Source => _source,
            RowTable.LandingPage => _landingPage,
            RowTable.LastPage => _lastPage,
            RowTable.Place => _place,
            RowTable.Device => _device,
            RowTable.Hour => _hour,
            RowTable.FirstSource => _firstSource ?? IdColumn.Of(_flags, _ => 0),
            RowTable.Visitor => IdColumn.Of(_flags, f => VisitorKinds.Of((f & HasId) != 0, (f & IsNew) != 0)),
            _ => throw new ArgumentOutOfRangeException(nameof(table), table, null),
        };

    /// <summary>Adds one to the row of each visit that bounced, converted, has an id, is its visitor's first.</summary>
    /// <param name="rows">For each visit its row.</param>
    /// <param name="bounces">By row.</param>
    /// <param name="converting">By row.</param>
    /// <param name="withId">By row.</param>
    /// <param name="isNew">By row.</param>
    /// <returns>How many of all visits converted.</returns>
    public long AddFlagsTo(ReadOnlySpan<int> rows, Span<long> bounces, Span<long> converting, Span<long> withId, Span<long> isNew)
    {
        byte[] flags = _flags;
        long converted = 0;
        for (int i = 0; i < flags.Length; i++)
        {
            int row = rows[i];
            int flag = flags[i];
            withId[row] += flag & HasId;
            bounces[row] += (flag & Bounced) >> 1;
            converting[row] += (flag & Converting) >> 2;
            isNew[row] += (flag & IsNew) >> 3;
            converted += (flag & Converting) >> 2;
        }

        return converted;
    }

    /// <summary>Makes columns of visits.</summary>
    /// <param name="visits">Of one day, at most <see cref="Most"/>.</param>
    /// <param name="conversions">Theirs; one whose visit is not among them is left out.</param>
    /// <param name="namedEvents">Theirs, likewise.</param>
    public static VisitColumns Of(
        IReadOnlyList<VisitFacts> visits,
        IEnumerable<ConversionFacts> conversions,
        IEnumerable<EventFacts> namedEvents
    )
    {
        ArgumentOutOfRangeException.ThrowIfGreaterThan(visits.Count, Most);
        var places = new Dictionary<Guid, ushort>(visits.Count);
        for (int i = 0; i < visits.Count; i++)
        {
            places[visits[i].Id] = (ushort)i;
        }

        return new VisitColumns(
            IdColumn.Of(visits, v => v.SourceId),
            IdColumn.Of(visits, v => v.LandingPageId),
            IdColumn.Of(visits, v => v.LastPageId),
            IdColumn.Of(visits, v => v.PlaceId),
            IdColumn.Of(visits, v => v.DeviceId),
            IdColumn.Of(visits, v => v.Hour),
            [
                .. visits.Select(v =>
                    (byte)((v.HasId ? HasId : 0) | (v.Bounced ? Bounced : 0) | (v.Conversions > 0 ? Converting : 0) | (v.IsNew ? IsNew : 0))
                ),
            ],
            NumberColumn.Of(visits, v => v.PageViews),
            NumberColumn.Of(visits, v => v.Events),
            NumberColumn.Of(visits, v => v.Seconds),
            [.. visits.Select(v => DistinctVisitors.Short(v.Visitor))],
            ConversionColumns.Of([
                .. conversions.Where(c => places.ContainsKey(c.VisitId)).Select(c => (Visit: places[c.VisitId], c)).OrderBy(c => c.Visit),
            ]),
            EventColumns.Of([
                .. namedEvents.Where(e => places.ContainsKey(e.VisitId)).Select(e => (Visit: places[e.VisitId], e)).OrderBy(e => e.Visit),
            ]),
            IdColumn.Of(visits, v => v.FirstSourceId),
            NumberColumn.Of(visits, v => v.Start)
        );
    }

    /// <summary>Reads what <see cref="ToBytes"/> gave.</summary>
    /// <exception cref="InvalidDataException">It is of another format.</exception>
    /// <exception cref="EndOfStreamException">It is cut short.</exception>
    public static VisitColumns Read(byte[] bytes)
    {
        using var reader = new BinaryReader(new MemoryStream(bytes), Encoding.UTF8);
        byte format = reader.ReadByte();
        if (format is not (Format or WithoutStarts or WithoutNamedEvents))
        {
            throw new InvalidDataException("These columns of visits are of another format.");
        }

        int count = reader.ReadInt32();
        return new VisitColumns(
            IdColumn.Read(reader, count),
            IdColumn.Read(reader, count),
            IdColumn.Read(reader, count),
            IdColumn.Read(reader, count),
            IdColumn.Read(reader, count),
            IdColumn.Read(reader, count),
            Packed.Read<byte>(reader, count),
            NumberColumn.Read(reader, count),
            NumberColumn.Read(reader, count),
            NumberColumn.Read(reader, count),
            Packed.Read<ulong>(reader, count),
            ConversionColumns.Read(reader),
            format == WithoutNamedEvents ? EventColumns.None : EventColumns.Read(reader),
            format == Format ? IdColumn.Read(reader, count) : null,
            format == Format ? NumberColumn.Read(reader, count) : null
        );
    }

    /// <summary>The columns one after another.</summary>
    public byte[] ToBytes()
    {
        using var bytes = new MemoryStream(Bytes + 200);
        using (var writer = new BinaryWriter(bytes, Encoding.UTF8, leaveOpen: true))
        {
            writer.Write(Format);
            writer.Write(Count);
            foreach (var column in (IdColumn[])[_source, _landingPage, _lastPage, _place, _device, _hour])
            {
                column.Write(writer);
            }

            writer.Write(_flags);
            foreach (var column in (NumberColumn[])[PageViews, Events, Seconds])
            {
                column.Write(writer);
            }

            Packed.Write<ulong>(writer, _visitors);
            Conversions.Write(writer);
            NamedEvents.Write(writer);
            (_firstSource ?? IdsOf(RowTable.FirstSource)).Write(writer);
            (_starts ?? NumberColumn.Of(_flags, _ => 0)).Write(writer);
        }

        return bytes.ToArray();
    }
}
