using System.Text;
using FsCheck;
using FsCheck.Fluent;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.CoreTests.Links;

/// <summary>A destination as somebody might paste it.</summary>
public sealed record PastedUrl(string Text);

/// <summary>A value as somebody might type it: any characters but half ones.</summary>
public sealed record TypedValue(string Text);

/// <summary>Makes destinations and values that look for trouble.</summary>
public static class LinkArbitraries
{
    private static readonly string[] Hosts =
    [
        "m.example",
        "www.m.example:8443",
        "bücher.example",
        "[2001:db8::1]",
        "192.0.2.7",
        "localhost:81",
        "a-b.c_d.example",
    ];
    private static readonly string[] Pieces =
    [
        "/",
        "/a",
        "/a%2Fb",
        "/%7Ex",
        "/;v=1",
        "/é",
        "/a b",
        "/%2e/../b",
        "//",
        "/ü/ß",
        "/x'y",
        "/(z)",
        "/😀",
        "/מרו",
        "/e\u0301",
        "/%E0%A4%A",
        "/a,b;c=d",
    ];
    private static readonly string[] Pairs =
    [
        "b",
        "b=",
        "b=1",
        "b=1&b=2",
        "q=%2520",
        "q=a+b",
        "q=a%20b",
        "B=x&b=y",
        "=",
        "&",
        "q=ü",
        "a=old",
        "A=9",
        "%61=5",
        "a",
        "q[]=1",
        "q=1;2",
        "p=a=b",
        "a=x&a=y",
        "q=/?",
        "x=%zz",
    ];
    private static readonly string[] Fragments = ["", "top", "/list?page=2", "a=3", "?c", "ü", "/r?a=1&b=2", "x=1"];

    public static Arbitrary<PastedUrl> Url() =>
        (
            from scheme in Gen.Elements("https://", "http://", "HTTPS://", "")
            from host in Gen.Elements(Hosts)
            from path in Gen.Elements(Pieces).ListOf()
            from query in Gen.Elements(Pairs).ListOf()
            from hasQuery in Gen.Elements(true, true, false)
            from fragment in Gen.Elements(Fragments)
            from hasFragment in Gen.Elements(true, false)
            let joined = string.Concat(path.Take(3))
            select new PastedUrl(
                scheme
                    + host
                    + (scheme.Length == 0 && joined.StartsWith("//", StringComparison.Ordinal) ? "" : joined)
                    + (hasQuery ? "?" + string.Join('&', query.Take(4)) : "")
                    + (hasFragment ? "#" + fragment : "")
            )
        ).ToArbitrary();

    public static Arbitrary<TypedValue> Value() =>
        (
            from plain in Gen.Elements(
                "email",
                "50% off",
                "a&b=c",
                "é",
                "e\u0301",
                "😀",
                "{kw}",
                "{{x}} y",
                "#",
                "?",
                "+",
                "%20",
                "a/b",
                "אב",
                " x ",
                "\u200Dx",
                "%%id%%",
                "A_B",
                "ﬁ",
                "x\"<>y"
            )
            from noise in ArbMap.Default.GeneratorFor<NonNull<string>>()
            from mixed in Gen.Elements(true, false)
            select new TypedValue(mixed ? plain : Whole(noise.Get))
        ).ToArbitrary();

    private static string Whole(string text)
    {
        var result = new StringBuilder();
        foreach (var rune in text.EnumerateRunes())
        {
            if (!Rune.IsControl(rune))
            {
                result.Append(rune.ToString());
            }
        }

        return result.ToString().Normalize(NormalizationForm.FormC);
    }

    /// <summary>The two tags the laws are tried with.</summary>
    public static IReadOnlyList<Tag> Tags(string a, string c) => [new Tag("a", a), new Tag("c", c)];
}
