using System.IO.Compression;
using System.Xml;

namespace PreciseBeacon.Web.Outside;

/// <summary>Reads the file in which a site lists its pages (the sitemaps protocol 0.9), plain or compressed.</summary>
public static class Sitemap
{
    private const int LargestUnfolded = 50 << 20; // the protocol's own limit

    /// <summary>Addresses of pages and of further sitemaps, in the file's order.</summary>
    /// <exception cref="OutsideException">It is no sitemap.</exception>
    public static (IReadOnlyList<string> Pages, IReadOnlyList<string> Sitemaps) Read(byte[] file)
    {
        var pages = new List<string>();
        var sitemaps = new List<string>();
        try
        {
            using var xml = XmlReader.Create(
                Unfold(file),
                new XmlReaderSettings
                {
                    DtdProcessing = DtdProcessing.Prohibit,
                    XmlResolver = null,
                    IgnoreWhitespace = true,
                }
            );
            List<string>? into = null;
            while (xml.Read())
            {
                if (xml.NodeType != XmlNodeType.Element)
                {
                    continue;
                }

                into = xml.LocalName switch
                {
                    "url" => pages,
                    "sitemap" => sitemaps,
                    _ => into,
                };
                if (xml.LocalName == "loc" && into is not null && xml.Prefix.Length == 0)
                {
                    using var inner = xml.ReadSubtree();
                    inner.Read();
                    into.Add(inner.ReadElementContentAsString().Trim());
                }
            }
        }
        catch (Exception broken) when (broken is XmlException or InvalidDataException)
        {
            throw new OutsideException("The site's sitemap.xml can't be read as XML.", broken);
        }

        return (pages, sitemaps);
    }

    private static MemoryStream Unfold(byte[] file)
    {
        if (file is not [0x1f, 0x8b, ..])
        {
            return new MemoryStream(file);
        }

        using var packed = new GZipStream(new MemoryStream(file), CompressionMode.Decompress);
        var plain = new MemoryStream();
        byte[] buffer = new byte[1 << 16];
        for (int read = packed.Read(buffer); read > 0; read = packed.Read(buffer))
        {
            plain.Write(buffer, 0, read);
            if (plain.Length > LargestUnfolded)
            {
                throw new OutsideException("The site's sitemap unpacks to more than 50 MB.");
            }
        }

        plain.Position = 0;
        return plain;
    }
}
