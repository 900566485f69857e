using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using PreciseBeacon.Core.Codes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Codes;

/// <summary>Codes of one link and of many, drawn in any format, on sheets of paper, and only after they were read.</summary>
public static class CodeEndpoints
{
    private static readonly CodeFormat[] Formats = Enum.GetValues<CodeFormat>();

    public static void MapCodes(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Codes");
        foreach (var format in Formats)
        {
            group
                .MapGet(
                    $"/links/{{id:guid}}/code{CodeFile.EndingOf(format)}",
                    (Guid id, [AsParameters] CodeLook look, CodeStore store, TimeProvider clock, CancellationToken cancel) =>
                        FileAsync(id, format, look, store, clock, cancel)
                )
                .WithName($"DrawCode{format}")
                .WithSummary($"Draws a link's QR code as {format.ToString().ToUpperInvariant()}.")
                .For(Caller.Readers)
                .Produces(StatusCodes.Status200OK, contentType: CodeFile.TypeOf(format).Split(';')[0]);
        }

        group
            .MapGet("/links/{id:guid}/code", OneAsync)
            .WithName("ReadCodeFacts")
            .WithSummary("Tells what a link's QR code holds, how large it is, and whether it reads.")
            .For(Caller.Readers);
        group.MapGet("/code-logos", LogosAsync).WithName("ListLogos").WithSummary("Lists logos for codes.").For(Caller.Readers);
        group
            .MapPost("/code-logos", KeepLogoAsync)
            .WithName("AddLogo")
            .WithSummary("Adds a logo for codes.")
            .For(Caller.Builders)
            .Produces<LogoAnswer>()
            .WithMetadata(new RequestSizeLimitAttribute((LogoFile.MostMegabytes + 1L) << 20));
        group
            .MapGet("/code-logos/{id:guid}.png", LogoAsync)
            .WithName("ShowLogo")
            .WithSummary("Shows a logo.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "image/png");
        group
            .MapDelete("/code-logos/{id:guid}", RemoveLogoAsync)
            .WithName("DeleteLogo")
            .WithSummary("Deletes a logo; codes that were made keep it.")
            .For(Caller.Builders);
        group
            .MapPost("/codes/count", CountAsync)
            .WithName("CountCodes")
            .WithSummary("Counts how many codes a choice of links has.")
            .For(Caller.Readers);
        group
            .MapPost("/codes.zip", ZipAsync)
            .WithName("DrawCodes")
            .WithSummary("Draws the codes of many links.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "application/zip");
        group
            .MapPost("/codes/sheet.pdf", SheetAsync)
            .WithName("PrintLabels")
            .WithSummary("Lays the codes of many links out on sheets of labels.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "application/pdf");
    }

    /// <summary>A code in figures, with what an independent reader says of it.</summary>
    private static async Task<Outcome<CodeAnswer>> OneAsync(
        Guid id,
        [AsParameters] CodeLook look,
        CodeStore store,
        CancellationToken cancel
    )
    {
        var (drawing, url, refusal) = await DrawingAsync(id, look, store, cancel);
        return drawing is null ? refusal! : (CodeProof.Prove(drawing, look.Long == true ? null : url));
    }

    private static async Task<IResult> FileAsync(
        Guid id,
        CodeFormat format,
        CodeLook look,
        CodeStore store,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var (drawing, url, refusal) = await DrawingAsync(id, look, store, cancel);
        if (drawing is null)
        {
            return refusal!.ToResult();
        }

        return CodeProof.WhyNot(CodeProof.Prove(drawing, look.Long == true ? null : url, format)) is { } reason
            ? Refusal.Unacceptable("code-unreadable", reason).ToResult()
            : Results.File(
                CodeFile.Draw(drawing, format, clock.GetUtcNow()),
                CodeFile.TypeOf(format),
                format == CodeFormat.Svg ? null : $"{CodeNames.FileName(url[(url.LastIndexOf('/') + 1)..])}{CodeFile.EndingOf(format)}"
            );
    }

    private static async Task<(CodeDrawing? Drawing, string Url, Refusal? Refusal)> DrawingAsync(
        Guid id,
        CodeLook look,
        CodeStore store,
        CancellationToken cancel
    )
    {
        var (style, refusal) = await store.StyleAsync(look, cancel);
        if (style is null)
        {
            return (null, "", refusal);
        }

        if (await store.TextsAsync([id], cancel) is not [var link] || (look.Long == true ? link.Long : link.Code) is not { } url)
        {
            return (null, "", Refusal.NotFound("code"));
        }

        // A path is not the same in capitals; only short links are.
        style = look.Long == true ? style with { Compact = false } : style;
        return Drawn(url, style) is var (drawing, problem) && drawing is null
            ? (null, url, Refusal.Unacceptable("code-long", problem!))
            : (drawing, url, null);
    }

    private static (CodeDrawing? Drawing, string? Problem) Drawn(string url, CodeStyle style)
    {
        try
        {
            return (CodeDrawing.Of(url, style), null);
        }
        catch (CodeTooLongException tooLong)
        {
            return (null, tooLong.Message);
        }
    }

    private static async Task<Ok<List<LogoAnswer>>> LogosAsync(CodeStore store, CancellationToken cancel) =>
        TypedResults.Ok(await store.LogosAsync(cancel));

    /// <summary>Takes a <c>file</c> in (multipart): PNG, JPEG or SVG.</summary>
    private static async Task<IResult> KeepLogoAsync(HttpContext context, CodeStore store, CancellationToken cancel)
    {
        if (!context.Request.HasFormContentType || (await context.Request.ReadFormAsync(cancel)).Files["file"] is not { Length: > 0 } file)
        {
            return Refusal.Invalid("file-missing", "Send the logo as “file” of a form.").ToResult();
        }

        if (file.Length > (long)LogoFile.MostMegabytes << 20)
        {
            return Refusal.TooLarge("file-large", $"A logo has {LogoFile.MostMegabytes} MB at most; save a smaller one.").ToResult();
        }

        byte[] content = new byte[file.Length];
        await using (var stream = file.OpenReadStream())
        {
            await stream.ReadExactlyAsync(content, cancel);
        }

        var (made, refusal) = await store.KeepAsync(Path.GetFileName(file.FileName), content, cancel);
        return made is null ? refusal!.ToResult() : Results.Ok(made);
    }

    private static async Task<IResult> LogoAsync(Guid id, CodeStore store, CancellationToken cancel) =>
        await store.LogoAsync(id, cancel) is { } png ? Results.Bytes(png, "image/png") : Refusal.NotFound("logo").ToResult();

    private static async Task<Refusal?> RemoveLogoAsync(Guid id, CodeStore store, CancellationToken cancel) =>
        await store.RemoveAsync(id, cancel) ? null : Refusal.NotFound("logo");

    /// <summary>What would be made, and whether it reads, before it is made.</summary>
    private static async Task<Outcome<ManyCodesAnswer>> CountAsync(SheetOfCodes wanted, CodeStore store, CancellationToken cancel)
    {
        var (codes, refusal) = await DrawAllAsync(wanted, store, cancel);
        if (codes is null)
        {
            return refusal!;
        }

        SheetLayout? layout = null;
        if (wanted.Sheet is not null)
        {
            (layout, refusal) = LayoutOf(wanted);
            if (layout is null)
            {
                return refusal!;
            }
        }

        var (read, says, reason) = CodeProof.ProveMany(
            [.. codes.Drawings.Select(d => d.Code)],
            wanted.Sheet is null ? null : CodeFormat.Pdf,
            cancel
        );
        var first = codes.Drawings is [var (_, code, url), ..] ? CodeProof.Prove(code, url) : null;
        int labels = codes.Drawings.Count + (wanted.Skip ?? 0);
        return (
            new ManyCodesAnswer(
                codes.Drawings.Count,
                codes.Without,
                layout is null ? null : (labels + layout.PerPage - 1) / layout.PerPage,
                layout,
                layout is null || codes.Drawings.Count == 0
                    ? null
                    : Math.Round((decimal)PrintSheet.SideOn(codes.Drawings[0].Code, layout), 1),
                first,
                read,
                reason is null ? null : $"{says}: {reason}"
            )
        );
    }

    private static async Task<IResult> ZipAsync(CodeFiles wanted, CodeStore store, TimeProvider clock, CancellationToken cancel)
    {
        if (!Enum.TryParse<CodeFormat>(wanted.Format ?? "svg", ignoreCase: true, out var format) || !Enum.IsDefined(format))
        {
            return Refusal
                .Invalid("format-unknown", $"“{wanted.Format}” isn't a format of codes; use svg, png, jpg, pdf or eps.")
                .ToResult();
        }

        var (codes, refusal) = await DrawAllAsync(wanted, store, cancel);
        if (codes is null || (refusal = Unreadable(codes, format, cancel)) is not null)
        {
            return refusal!.ToResult();
        }

        string pattern = TypedText.OrNull(wanted.Names) ?? CodeNames.UsualName;
        var used = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        var named = new List<(string, CodeDrawing)>(codes.Drawings.Count);
        foreach (var ((link, drawing, _), i) in codes.Drawings.Select((d, i) => (d, i)))
        {
            var (text, missing) = CodeNames.Fill(pattern, link, i + 1);
            if (missing is [var unknown, ..])
            {
                return UnknownFillIn(unknown).ToResult();
            }

            string name = CodeNames.FileName(text);
            named.Add((used.Add(name) ? name : $"{name} {link.Slug}", drawing));
        }

        return Results.Stream(
            await PassingFile.WriteAsync(file => CodeZip.WriteAsync(file, named.ToAsyncEnumerable(), format, clock.GetUtcNow(), cancel)),
            "application/zip",
            "codes.zip"
        );
    }

    private static async Task<IResult> SheetAsync(SheetOfCodes wanted, CodeStore store, TimeProvider clock, CancellationToken cancel)
    {
        var (layout, refusal) = LayoutOf(wanted);
        if (layout is null)
        {
            return refusal!.ToResult();
        }

        var (codes, wrong) = await DrawAllAsync(wanted, store, cancel);
        if (codes is null || (wrong = Unreadable(codes, CodeFormat.Pdf, cancel)) is not null)
        {
            return wrong!.ToResult();
        }

        return codes.Drawings.Count == 0
            ? Refusal.Unacceptable("codes-none", "None of these links has a code; create short links for them first.").ToResult()
            : Results.Bytes(
                PrintSheet.Draw(
                    [.. codes.Drawings.Select(d => d.Code)],
                    layout,
                    wanted.Skip ?? 0,
                    wanted.CutMarks ?? true,
                    clock.GetUtcNow(),
                    cancel
                ),
                "application/pdf",
                "codes.pdf"
            );
    }

    private static Refusal? Unreadable(Codes codes, CodeFormat format, CancellationToken cancel) =>
        CodeProof.ProveMany([.. codes.Drawings.Select(d => d.Code)], format, cancel) is (_, { } says, { } reason)
            ? Refusal.Unacceptable("code-unreadable", $"{says}: {reason}")
            : null;

    private static Outcome<SheetLayout> LayoutOf(SheetOfCodes wanted)
    {
        var s = wanted.Sheet ?? new SheetChoice();
        if (wanted.Skip is < 0 or > 10_000)
        {
            return Refusal.Invalid("sheet-refused", "The number of labels already used is 0 to 10,000.");
        }

        var layout = s switch
        {
            { Columns: { } columns and > 0, Rows: { } rows and > 0, Width: { } width, Height: { } height } => new SheetLayout(
                s.PageWidth ?? SheetLayout.A4Width,
                s.PageHeight ?? SheetLayout.A4Height,
                columns,
                rows,
                width,
                height,
                s.Left ?? 0,
                s.Top ?? 0,
                s.GapAcross ?? 0,
                s.GapDown ?? 0
            ),
            { Columns: { } columns and > 0, Rows: { } rows and > 0 } => SheetLayout.Divided(columns, rows),
            { Width: > 0 and var width, Height: > 0 and var height } => SheetLayout.OnA4(width, height, Math.Max(0, s.Gap ?? 0)),
            _ => null,
        };
        return layout is null ? Refusal.Invalid("sheet-refused", "Say how large a label is, or how many are across and down.")
            : layout.WhyRefused() is { } reason ? Refusal.Invalid("sheet-refused", reason)
            : layout;
    }

    private static async Task<Outcome<Codes>> DrawAllAsync(ManyCodes wanted, CodeStore store, CancellationToken cancel)
    {
        var look = wanted.Look ?? new CodeLook();
        var (style, refusal) = await store.StyleAsync(look, cancel);
        if (style is null)
        {
            return refusal!;
        }

        var ids = wanted.Batch is { } batch ? await store.OfBatchAsync(batch, cancel) : [.. (wanted.Links ?? []).Distinct()];
        if (ids is null)
        {
            return Refusal.NotFound("batch");
        }

        if (ids.Count > CodeStore.Most)
        {
            return Refusal.Unacceptable(
                "codes-many",
                $"{ids.Count:N0} codes are more than the {CodeStore.Most:N0} that can be created at once; select fewer."
            );
        }

        var links = await store.TextsAsync(ids, cancel);
        var drawings = new List<(CodeText, CodeDrawing, string)>(links.Count);
        foreach (var link in links.Where(l => l.Code is not null))
        {
            var (caption, missing) = style.Caption is null ? (null, []) : CodeNames.Fill(style.Caption, link, drawings.Count + 1);
            if (missing is [var unknown, ..])
            {
                return UnknownFillIn(unknown);
            }

            var (drawing, problem) = Drawn(link.Code!, style with { Caption = caption });
            if (drawing is null)
            {
                return Refusal.Unacceptable("code-long", problem!);
            }

            drawings.Add((link, drawing, link.Code!));
        }

        return new Codes(drawings, links.Count - drawings.Count);
    }

    private static Refusal UnknownFillIn(string name) =>
        Refusal.Unacceptable(
            "fill-in-unknown",
            $"“{name}” is unknown; you can use @{{number}}, @{{slug}}, @{{title}}, @{{campaign}}, @{{placement}} and @{{short link}}."
        );

    /// <summary>Codes that were drawn, and how many links had none.</summary>
    private sealed record Codes(IReadOnlyList<(CodeText Link, CodeDrawing Code, string Url)> Drawings, int Without);
}
