namespace PreciseBeacon.Core.Links;

/// <summary>The shapes of placeholder that ad platforms fill in at click time and mail tools when they send; a workspace chooses which are live.</summary>
[Flags]
public enum PlaceholderShapes
{
    None = 0,

    /// <summary><c>{name}</c></summary>
    Braces = 1,

    /// <summary><c>{{name}}</c></summary>
    DoubleBraces = 2,

    /// <summary><c>[name]</c></summary>
    Brackets = 4,

    /// <summary><c>%%name%%</c>; no standard reader can read it back.</summary>
    Percents = 8,

    /// <summary><c>$name$</c></summary>
    Dollars = 16,

    /// <summary><c>__NAME__</c></summary>
    Underscores = 32,

    /// <summary><c>@{click.name}</c>, filled in by our own redirect; always live.</summary>
    AtClick = 64,

    /// <summary>
    /// Merge tags that a mail tool fills in: <c>{{ name }}</c>, <c>*|NAME|*</c>, <c>&lt;%= name %&gt;</c>,
    /// <c>%name.name%</c>, <c>[[name]]</c>, <c>${name}</c>, with inner spaces. Always live in mails.
    /// </summary>
    MergeTags = 128,

    All = Braces | DoubleBraces | Brackets | Percents | Dollars | Underscores | MergeTags,
}
