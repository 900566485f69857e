namespace PreciseBeacon.Core.Mails;

/// <summary>What a mail's link says as its content.</summary>
public enum MailContentBy
{
    /// <summary>Where it stands and what it looks like: <c>header button</c>, with a number from the second one on; the content field writes the spaces as it does all.</summary>
    Position,

    /// <summary>Its number and what is read there: <c>2 Read more</c>.</summary>
    NumberAndText,

    /// <summary>Nothing: content stays as placement and convention say.</summary>
    Nothing,
}

/// <summary>Names the links of a mail, so that they can be told apart in reports (ours).</summary>
public static class MailContent
{
    private const int LongestText = 40;

    /// <summary>Content for each link, by its number; links that are left alone still count, so that names stay when they change.</summary>
    public static IReadOnlyDictionary<int, string> Of(IReadOnlyList<MailLink> links, MailContentBy by)
    {
        var names = new Dictionary<int, string>();
        var times = new Dictionary<string, int>();
        foreach (var link in links)
        {
            if (by == MailContentBy.NumberAndText)
            {
                names[link.Number] = $"{link.Number} {Short(link)}";
            }
            else if (by == MailContentBy.Position)
            {
                string name = $"{link.Place.ToString().ToLowerInvariant()} {link.Shape.ToString().ToLowerInvariant()}";
                int time = times[name] = times.GetValueOrDefault(name) + 1;
                names[link.Number] = time == 1 ? name : $"{name} {time}";
            }
        }

        return names;
    }

    /// <summary>Whole words of what is read there.</summary>
    private static string Short(MailLink link)
    {
        // An address of a mail box among the words would be personal data in a report.
        string text = string.Join(
            ' ',
            link.Text.Split(' ', StringSplitOptions.RemoveEmptyEntries).Where(w => !w.Contains('@', StringComparison.Ordinal))
        );
        if (text.Length == 0)
        {
            return link.Shape.ToString().ToLowerInvariant();
        }

        if (text.Length <= LongestText)
        {
            return text;
        }

        int cut = text.LastIndexOf(' ', LongestText);
        return text[..(cut > 0 ? cut : LongestText)];
    }
}
