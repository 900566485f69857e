using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using PreciseBeacon.Core.Codes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Codes;

/// <summary>How a code is asked for.</summary>
/// <param name="Mm">Side in millimetres, quiet zone included; 5 to 2,000, 30 when left out.</param>
/// <param name="Dpi">Dots per inch; 30 to 2,400, 300 when left out.</param>
/// <param name="Correction"><c>L</c>, <c>M</c>, <c>Q</c> or <c>H</c>; M when left out, H under a logo.</param>
/// <param name="Compact">The address in capitals.</param>
/// <param name="Dark">Colour of the modules, <c>#RRGGBB</c>.</param>
/// <param name="Light">Colour of the ground, <c>#RRGGBB</c>.</param>
/// <param name="Caption">Text under the code, up to 200 signs.</param>
/// <param name="Logo">A kept logo's id.</param>
/// <param name="LogoShare">The logo's side as a part of the code's, 0.05 to 0.5; 0.2 when left out.</param>
/// <param name="Long">The long link in place of the short one; such a code can't be changed or counted.</param>
public sealed record CodeLook(
    [FromQuery(Name = "mm")] decimal? Mm = null,
    [FromQuery(Name = "dpi")] int? Dpi = null,
    [FromQuery(Name = "correction")] string? Correction = null,
    [FromQuery(Name = "compact")] bool? Compact = null,
    [FromQuery(Name = "dark")] string? Dark = null,
    [FromQuery(Name = "light")] string? Light = null,
    [FromQuery(Name = "caption")] string? Caption = null,
    [FromQuery(Name = "logo")] Guid? Logo = null,
    [FromQuery(Name = "logoShare")] decimal? LogoShare = null,
    [FromQuery(Name = "long")] bool? Long = null
)
{
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
