using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using PreciseBeacon.Core.Codes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Codes;

/// <summary>How a code is asked for.</summary>
public sealed record CodeLook
{
    /// <summary>Side in millimetres, quiet zone included; 5 to 2,000, 30 when left out.</summary>
    [FromQuery(Name = "mm")]
    public decimal? Mm { get; init; }

    /// <summary>Dots per inch; 30 to 2,400, 300 when left out.</summary>
    [FromQuery(Name = "dpi")]
    public int? Dpi { get; init; }

    /// <summary><c>L</c>, <c>M</c>, <c>Q</c> or <c>H</c>; M when left out, H under a logo.</summary>
    [FromQuery(Name = "correction")]
    public string? Correction { get; init; }

    /// <summary>The address in capitals.</summary>
    [FromQuery(Name = "compact")]
    public bool? Compact { get; init; }

    /// <summary>Colour of the modules, <c>#RRGGBB</c>.</summary>
    [FromQuery(Name = "dark")]
    public string? Dark { get; init; }

    /// <summary>Colour of the ground, <c>#RRGGBB</c>.</summary>
    [FromQuery(Name = "light")]
    public string? Light { get; init; }

    /// <summary>Text under the code, up to 200 signs.</summary>
    [FromQuery(Name = "caption")]
    public string? Caption { get; init; }

    /// <summary>A kept logo's id.</summary>
    [FromQuery(Name = "logo")]
    public Guid? Logo { get; init; }

    /// <summary>The logo's side as a part of the code's, 0.05 to 0.5; 0.2 when left out.</summary>
    [FromQuery(Name = "logoShare")]
    public decimal? LogoShare { get; init; }

    /// <summary>The long link in place of the short one; such a code can't be changed or counted.</summary>
    [FromQuery(Name = "long")]
    public bool? Long { get; init; }

    private const int LongestCaption = 200;

    /// <summary>The style asked for.</summary>
    /// <param name="logo">The logo's PNG, when one was asked for.</param>
    public Outcome<CodeStyle> Read(byte[]? logo)
    {
        var (mm, dpi) = (Mm ?? 30, Dpi ?? 300);
        if (mm is < 5 or > 2_000 || dpi is < 30 or > 2_400 || mm * dpi > 300_000)
        {
            return Refusal.Invalid(
                "size-refused",
                "A code is 5 to 2,000 mm wide at 30 to 2,400 dpi, and not larger than 12,000 dots; choose a smaller size or resolution."
            );
        }

        CorrectionLevel? level = null;
        if (TypedText.OrNull(Correction) is { } asked)
        {
            if (!Enum.TryParse<CorrectionLevel>(asked, ignoreCase: true, out var found) || !Enum.IsDefined(found))
            {
                return Refusal.Invalid("correction-unknown", $"“{asked}” isn't a level of error correction; use L, M, Q or H.");
            }

            level = found;
        }

        var (dark, light) = (TypedText.OrNull(Dark) ?? "#000000", TypedText.OrNull(Light) ?? "#FFFFFF");
        foreach (string colour in new[] { dark, light })
        {
            if (CodeColours.Read(colour) is null)
            {
                return Refusal.Invalid("colour-unreadable", $"“{colour}” isn't a colour; write it like #1E2230.");
            }
        }

        string? caption = TypedText.OrNull(Caption);
        if (caption?.Length > LongestCaption)
        {
            return Refusal.Invalid("caption-long", $"The caption has {caption.Length} characters; at most {LongestCaption} are allowed.");
        }

        if (LogoShare is < 0.05m or > 0.5m)
        {
            return Refusal.Invalid("logo-share", "A logo takes 5 to 50 % of a code’s side.");
        }

        return new CodeStyle(mm, dpi, level, Compact ?? false, dark, light, caption, logo, LogoShare ?? 0.2m);
    }
}
