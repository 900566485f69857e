using PreciseBeacon.Core.Codes;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Codes;

/// <summary>Which codes are wanted: chosen links, or those a batch made.</summary>
/// <param name="Links">Links in their order; null with a batch.</param>
/// <param name="Batch">A batch; its rows' order is kept.</param>
/// <param name="Look">How the codes look; its caption may have <c>@{title}</c>, <c>@{slug}</c>, <c>@{campaign}</c>, <c>@{placement}</c>, <c>@{short link}</c> and <c>@{number}</c>.</param>
public record ManyCodes(IReadOnlyList<Guid>? Links, Guid? Batch, CodeLook? Look);

/// <summary>Codes as single files.</summary>
/// <param name="Format"><c>svg</c>, <c>png</c>, <c>jpg</c>, <c>pdf</c> or <c>eps</c>.</param>
/// <param name="Names">How files are called, with the same fill-ins as a caption.</param>
public sealed record CodeFiles(IReadOnlyList<Guid>? Links, Guid? Batch, CodeLook? Look, string? Format, string? Names)
    : ManyCodes(Links, Batch, Look);

/// <summary>Codes on sheets of paper.</summary>
/// <param name="Sheet">How the paper is divided.</param>
/// <param name="Skip">Labels at the beginning that are gone already.</param>
/// <param name="CutMarks">Whether marks say where to cut.</param>
public sealed record SheetOfCodes(IReadOnlyList<Guid>? Links, Guid? Batch, CodeLook? Look, SheetChoice? Sheet, int? Skip, bool? CutMarks)
    : ManyCodes(Links, Batch, Look);

/// <summary>How paper is divided: as many labels of a size as A4 holds, A4 divided from edge to edge, or everything measured.</summary>
/// <param name="Columns">Labels across; with <paramref name="Rows"/> alone A4 is divided evenly.</param>
/// <param name="Rows">Labels down.</param>
/// <param name="Width">Width of a label, mm; with <paramref name="Height"/> alone as many as fit are laid on A4.</param>
/// <param name="Height">Height of a label, mm.</param>
/// <param name="Gap">Between labels that are cut out, mm.</param>
/// <param name="Left">From the left edge of the paper, mm.</param>
/// <param name="Top">From its upper edge, mm.</param>
/// <param name="GapAcross">Between labels beside each other, mm.</param>
/// <param name="GapDown">Between labels below each other, mm.</param>
/// <param name="PageWidth">The paper's width, mm; A4 when left out.</param>
/// <param name="PageHeight">The paper's height, mm; A4 when left out.</param>
public sealed record SheetChoice(
    int? Columns = null,
    int? Rows = null,
    decimal? Width = null,
    decimal? Height = null,
    decimal? Gap = null,
    decimal? Left = null,
    decimal? Top = null,
    decimal? GapAcross = null,
    decimal? GapDown = null,
    decimal? PageWidth = null,
    decimal? PageHeight = null
);

/// <summary>What many codes come to, before they are made.</summary>
/// <param name="Codes">How many.</param>
/// <param name="Without">Links among those asked for that have no code.</param>
/// <param name="Pages">Sheets of paper; null where no sheet was asked for.</param>
/// <param name="Layout">Where labels lie on a sheet; null where none was asked for.</param>
/// <param name="LabelMillimetres">Side of the first code on its label, mm; null where no sheet was asked for.</param>
/// <param name="First">The first code, looked at; null when there is none.</param>
/// <param name="Read">How many an independent reader looked at: each version, and a sample of the rest.</param>
/// <param name="Problem">Why they are not handed out; null when they are.</param>
public sealed record ManyCodesAnswer(
    int Codes,
    int Without,
    int? Pages,
    SheetLayout? Layout,
    decimal? LabelMillimetres,
    CodeAnswer? First,
    int Read,
    string? Problem
);
