using System.Text;
using System.Text.RegularExpressions;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using MimeKit;
using PreciseBeacon.Core.Mails;

namespace PreciseBeacon.CoreTests.Mails;

/// <summary>Mails come back with other links and nothing else changed; MimeKit (RFC 2045, 5322) reads what was written.</summary>
public sealed class MailFileTests
{
    private const string Letter =
        "<!doctype html>\r\n<html><head><meta charset=\"utf-8\"><link rel=stylesheet href=\"x.css\"><base href='https://m.example/'></head><body>\r\n"
        + "<div class=\"mail-header\"><a  HREF = 'https://marrowmere.example/?a=1&amp;b=2'\n title=\"x\"><img src=a.png alt=\"Marrowmere – garden\"></a></div>\r\n"
        + "<!-- <a href=\"https://marrowmere.example/hidden\">not there</a> -->\r\n"
        + "<!--[if mso]><v:roundrect href=\"https://marrowmere.example/visit\" fill=\"t\">Plan</v:roundrect><![endif]-->\r\n"
        + "<!--[if !mso]><!--><a class=\"btn\" data-x=\"href='no'\" href=\"https://marrowmere.example/visit\">Plan your <b>visit</b></a><!--<![endif]-->\r\n"
        + "<p>Größe = 5 <a href=https://marrowmere.example/shop>shop</a> and <a name=top>no link</a></p><script>var s='<a href=\"q\">';</script>\r\n"
        + "<p>much</p><p>text</p><p>in</p><p>the</p><p>middle</p><footer><a href=\"mailto:a@marrowmere.example\">write</a> <a href=\"{{unsubscribe}}\">Leave</a></footer></body></html>\r\n";

    private static readonly Dictionary<int, string> New = new()
    {
        [1] = "https://marrowmere.example/?a=1&b=2&utm_source=trellis",
        [3] = "https://marrowmere.example/visit?x='\"&utm_source=trellis&utm_content=" + new string('c', 120),
        [4] = "https://marrowmere.example/shop?utm_source=trellis",
    };

    [Fact]
    public void Links_are_found_where_a_reader_sees_them_with_words_place_and_shape()
    {
        var links = MailFile.Read(Encoding.UTF8.GetBytes(Letter)).Links;
        Assert.Equal(
            [
                "1 https://marrowmere.example/?a=1&b=2 “Marrowmere – garden” Header Picture",
                "2 https://marrowmere.example/visit “Plan” Body Button",
                "3 https://marrowmere.example/visit “Plan your visit” Body Button",
                "4 https://marrowmere.example/shop “shop” Body Link",
                "5 mailto:a@marrowmere.example “write” Footer Link",
                "6 {{unsubscribe}} “Leave” Footer Link",
            ],
            links.Select(l => $"{l.Number} {l.Href} “{l.Text}” {l.Place} {l.Shape}")
        );
    }

    [Fact]
    public void All_but_the_links_stays_octet_for_octet()
    {
        byte[] before = Encoding.UTF8.GetBytes(Letter);
        string after = Encoding.UTF8.GetString(MailFile.Read(before).With(New));
        Assert.Equal(
            Letter
                .Replace(
                    "https://marrowmere.example/?a=1&amp;b=2",
                    "https://marrowmere.example/?a=1&amp;b=2&amp;utm_source=trellis",
                    StringComparison.Ordinal
                )
                .Replace(
                    "href=\"https://marrowmere.example/visit\">Plan your",
                    $"href=\"https://marrowmere.example/visit?x='&quot;&amp;utm_source=trellis&amp;utm_content={new string('c', 120)}\">Plan your",
                    StringComparison.Ordinal
                )
                .Replace(
                    "href=https://marrowmere.example/shop>",
                    "href=\"https://marrowmere.example/shop?utm_source=trellis\">",
                    StringComparison.Ordinal
                ),
            after
        );
        Assert.Same(before, MailFile.Read(before).With(new Dictionary<int, string>()));
    }

    [Fact]
    public void Html_alone_is_called_by_its_title()
    {
        byte[] file = Encoding.UTF8.GetBytes(
            "<html><head><title> The Trellis\n&amp; more </title></head><body><a href=\"https://marrowmere.example/\">x</a></body></html>"
        );
        Assert.Equal("The Trellis & more", MailFile.Read(file).Subject);
    }

    [Theory]
    [InlineData("utf-8")]
    [InlineData("iso-8859-1")]
    [InlineData("windows-1252")]
    [InlineData("utf-16")]
    public void Words_are_read_in_the_mails_own_charset(string charset)
    {
        var encoding = CodePagesEncodingProvider.Instance.GetEncoding(charset) ?? Encoding.GetEncoding(charset);
        byte[] file =
        [
            .. encoding.GetPreamble(),
            .. encoding.GetBytes($"<html><meta charset={charset}><p>ü</p><a href=\"https://marrowmere.example/\">Gärten öffnen</a></html>"),
        ];
        var mail = MailFile.Read(file);
        Assert.Equal(("Gärten öffnen", (string?)null), (mail.Links.Single().Text, mail.Subject));
        byte[] after = mail.With(new Dictionary<int, string> { [1] = "https://marrowmere.example/?x=1" });
        Assert.Equal(encoding.GetString(file).Replace(".example/", ".example/?x=1", StringComparison.Ordinal), encoding.GetString(after));
    }

    [Theory]
    [InlineData(ContentEncoding.QuotedPrintable)]
    [InlineData(ContentEncoding.Base64)]
    [InlineData(ContentEncoding.EightBit)]
    public void A_message_is_read_by_another_reader_with_the_new_links_and_the_same_other_parts(ContentEncoding transfer)
    {
        var message = new MimeMessage();
        message.From.Add(MailboxAddress.Parse("trellis@marrowmere.example"));
        message.To.Add(MailboxAddress.Parse("friends@marrowmere.example"));
        message.Subject = "Lanterns, größer";
        message.Body = new Multipart("mixed")
        {
            new MultipartAlternative
            {
                new TextPart("plain") { Text = "See https://marrowmere.example/visit" },
                new TextPart("html") { Text = Letter, ContentTransferEncoding = transfer },
            },
            new MimePart("image", "png")
            {
                Content = new MimeContent(new MemoryStream([1, 2, 3, 0, 255])),
                ContentTransferEncoding = ContentEncoding.Base64,
                FileName = "a.png",
            },
        };
        using var written = new MemoryStream();
        message.WriteTo(written);
        byte[] file = written.ToArray();

        var mail = MailFile.Read(file);
        Assert.Equal(("Lanterns, größer", true, 6), (mail.Subject, mail.IsMessage, mail.Links.Count));
        byte[] after = mail.With(New);
        using var read = new MemoryStream(after);
        var back = MimeMessage.Load(read);
        Assert.Equal(Lines(mail.ReadableWith(New)), Lines(back.HtmlBody!)); // another reader gives lines ends of its own
        Assert.Equal(message.TextBody, back.TextBody);

        // Before and after the HTML part not an octet differs, and no line grows too long.
        int same = file.Zip(after).TakeWhile(o => o.First == o.Second).Count();
        int sameAtEnd = file.Reverse().Zip(after.Reverse()).TakeWhile(o => o.First == o.Second).Count();
        Assert.True(same > Encoding.UTF8.GetString(file).IndexOf("text/html", StringComparison.Ordinal));
        Assert.True(
            sameAtEnd > Encoding.UTF8.GetString(file).Length - Encoding.UTF8.GetString(file).IndexOf("image/png", StringComparison.Ordinal)
        );
        if (transfer != ContentEncoding.EightBit)
        {
            Assert.All(Encoding.Latin1.GetString(after).Split('\n'), line => Assert.InRange(line.Length, 0, 77));
        }
    }

    private static string[] Lines(string text) => text.ReplaceLineEndings("\n").TrimEnd('\n').Split('\n');

    [Theory]
    [InlineData("Subject: x\r\nFrom: a@m.example\r\n\r\nonly text, no HTML")]
    [InlineData("nothing like a mail")]
    [InlineData("")]
    [InlineData("%PDF-1.7 <a href=x>")]
    public void What_has_no_html_is_refused(string file) =>
        Assert.EndsWith(
            ".",
            Assert.Throws<FormatException>(() => MailFile.Read(Encoding.UTF8.GetBytes(file))).Message,
            StringComparison.Ordinal
        );

    [Property(MaxTest = 300, QuietOnSuccess = true)]
    public Property Quoted_printable_comes_back_as_it_was_but_for_what_is_replaced(byte[] octets, PositiveInt at, NonNegativeInt length)
    {
        // A line's end is one octet for the encoder, however it is written.
        string plain = Regex.Replace(Encoding.Latin1.GetString(octets), "\r+\n", "\n") + "https://marrowmere.example/";
        var encoder = new MimeKit.Encodings.QuotedPrintableEncoder();
        byte[] input = Encoding.Latin1.GetBytes(plain);
        byte[] output = new byte[encoder.EstimateOutputLength(input.Length)];
        string encoded = Encoding.Latin1.GetString(output, 0, encoder.Flush(input, 0, input.Length, output));
        var quoted = new QuotedPrintable(encoded);
        int start = at.Get % plain.Length;
        int count = Math.Min(length.Get % 8, plain.Length - start);
        string replaced = quoted.Replace([(start, count, "ü=new")]);
        return (
            quoted.Plain == plain
            && quoted.Replace([]) == encoded
            && new QuotedPrintable(replaced).Plain == plain[..start] + "ü=new" + plain[(start + count)..]
        ).Label(encoded);
    }
}
