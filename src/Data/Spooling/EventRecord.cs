using System.Buffers;
using System.Globalization;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Spooling;

/// <summary>The form of raw events in a spool. What a stranger sent is cut to limits here, before it is kept.</summary>
public static class EventRecord
{
    public const int LongestReferrer = 1_000;
    public const int LongestUrl = 8_000;
    private const int LongestCountry = 2;
    private const int LongestPlace = 80;
    private const int LongestLanguage = 8;
    private const int LongestName = 200;
    private const int LongestItems = 4_000;
    private const byte HitType = 1;
    private const byte PageEventType = 2;

    /// <summary>Appends a hit; true when it is safe.</summary>
    public static bool TryAppend(Spool spool, RawHit hit)
    {
        Span<byte> buffer =
            stackalloc byte[128 + ((Crawlers.LongestUserAgent + LongestReferrer + (2 * LongestPlace) + RawHit.LongestTyped) * 3)];
        var writer = new RecordWriter(buffer);
        writer.Byte(HitType);
        writer.Id(hit.Id);
        writer.Id(hit.WorkspaceId);
        writer.Moment(hit.At);
        writer.Id(hit.ShortLinkId);
        writer.Id(hit.Visitor);
        writer.OptionalId(hit.EarlierVisitor);
        writer.Byte((byte)hit.Flags);
        writer.Text(hit.UserAgent, Crawlers.LongestUserAgent);
        writer.Text(hit.Referrer, LongestReferrer);
        writer.Text(hit.Country, LongestCountry);
        writer.Text(hit.Region, LongestPlace);
        writer.Text(hit.City, LongestPlace);
        writer.Whole(hit.PageKey);
        writer.Text(hit.Typed, RawHit.LongestTyped);
        writer.OptionalId(hit.ClickId);

        return spool.TryAppend(buffer[..writer.Length]);
    }

    /// <summary>Appends a page event; true when it is safe.</summary>
    public static bool TryAppend(Spool spool, RawPageEvent item)
    {
        byte[] buffer = ArrayPool<byte>.Shared.Rent(
            512 + ((Crawlers.LongestUserAgent + LongestReferrer + LongestUrl + (3 * LongestName) + LongestItems + (2 * LongestPlace)) * 3)
        );
        try
        {
            var writer = new RecordWriter(buffer);
            writer.Byte(PageEventType);
            writer.Id(item.Id);
            writer.Id(item.WorkspaceId);
            writer.Id(item.SiteId);
            writer.Moment(item.At);
            writer.Byte((byte)item.Kind);
            writer.Text(item.Url, LongestUrl);
            writer.Text(item.Referrer, LongestReferrer);
            writer.Id(item.Visitor);
            writer.OptionalId(item.EarlierVisitor);
            writer.Byte(item.HasId ? (byte)1 : (byte)0);
            writer.Text(item.UserAgent, Crawlers.LongestUserAgent);
            writer.Text(item.Name, LongestName);
            writer.OptionalText(item.OrderId, LongestName);
            writer.OptionalText(item.Value?.ToString(CultureInfo.InvariantCulture), LongestName);
            writer.OptionalText(item.Currency, LongestName);
            writer.OptionalText(item.Items, LongestItems);
            writer.OptionalId(item.DayVisitor);
            writer.Text(item.Country, LongestCountry);
            writer.Text(item.Region, LongestPlace);
            writer.Text(item.City, LongestPlace);
            writer.Text(item.Language, LongestLanguage);
            return spool.TryAppend(buffer.AsSpan(0, writer.Length));
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }
    }

    /// <summary>Reads a record into one of two lists.</summary>
    public static void Read(ReadOnlySpan<byte> record, RawEvents into)
    {
        var reader = new RecordReader(record);
        if (reader.Byte() == HitType)
        {
            into.Hits.Add(
                new RawHit(
                    reader.Id(),
                    reader.Id(),
                    reader.Moment(),
                    reader.Id(),
                    reader.Id(),
                    reader.OptionalId(),
                    (HitFlags)reader.Byte(),
                    reader.Text(),
                    reader.Text(),
                    reader.AtEnd ? "" : reader.Text(), // a spool of an earlier version ends before it
                    reader.AtEnd ? "" : reader.Text(),
                    reader.AtEnd ? "" : reader.Text(),
                    reader.AtEnd ? PageKey.Unknown : reader.Whole(),
                    reader.AtEnd ? "" : reader.Text(),
                    reader.AtEnd ? null : reader.OptionalId()
                )
            );
            return;
        }

        into.PageEvents.Add(
            new RawPageEvent
            {
                Id = reader.Id(),
                WorkspaceId = reader.Id(),
                SiteId = reader.Id(),
                At = reader.Moment(),
                Kind = (PageEventKind)reader.Byte(),
                Url = reader.Text(),
                Referrer = reader.Text(),
                Visitor = reader.Id(),
                EarlierVisitor = reader.OptionalId(),
                HasId = reader.Byte() == 1,
                UserAgent = reader.Text(),
                Name = reader.Text(),
                OrderId = reader.OptionalText(),
                Value = reader.OptionalText() is { } value ? decimal.Parse(value, CultureInfo.InvariantCulture) : null,
                Currency = reader.OptionalText(),
                Items = reader.OptionalText(),
                DayVisitor = reader.AtEnd ? null : reader.OptionalId(), // a spool of an earlier version ends before it
                Country = reader.AtEnd ? "" : reader.Text(),
                Region = reader.AtEnd ? "" : reader.Text(),
                City = reader.AtEnd ? "" : reader.Text(),
                Language = reader.AtEnd ? "" : reader.Text(),
            }
        );
    }
}
