namespace PreciseBeacon.Core.Links;

/// <summary>The pairs of a query or fragment while tags are put in: what stands there stays where it stands.</summary>
internal sealed class TagPieces
{
    private readonly IReadOnlyList<Tag> _tags;
    private readonly List<(string Text, int Tag)> _pieces = [];

    public TagPieces(string? raw, IReadOnlyList<Tag> tags)
    {
        _tags = tags;
        Raw = raw;
        foreach (var pair in RawPair.Split(raw))
        {
            _pieces.Add((pair.Raw, pair.Raw.Length == 0 ? -1 : IndexOf(pair.Key)));
        }
    }

    /// <summary>The text the pieces came from.</summary>
    public string? Raw { get; }

    public bool Changed { get; private set; }

    public IReadOnlyList<(string Text, int Tag)> Pieces => _pieces;

    public IEnumerable<FoundTag> Found(bool afterHash) =>
        from piece in _pieces
        where piece.Tag >= 0
        let pair = new RawPair(piece.Text)
        select new FoundTag(_tags[piece.Tag].Key, pair.Key, pair.Value, afterHash);

    /// <summary>Puts each tag's new text in place of its first occurrence and drops its other ones.</summary>
    /// <param name="texts">New text by tag, null for a tag without a value.</param>
    /// <param name="placed">Tags that have their place already; those placed here are marked.</param>
    /// <param name="place">False drops every occurrence, as the tags go elsewhere.</param>
    public void Replace(IReadOnlyList<string?> texts, bool[] placed, bool place)
    {
        for (int i = 0; i < _pieces.Count; i++)
        {
            int tag = _pieces[i].Tag;
            if (tag < 0)
            {
                continue;
            }

            if (place && !placed[tag] && texts[tag] is { } text)
            {
                Changed |= _pieces[i].Text != text;
                _pieces[i] = (text, tag);
                placed[tag] = true;
            }
            else
            {
                Changed = true;
                _pieces.RemoveAt(i--);
            }
        }
    }

    public void MarkPresent(bool[] placed)
    {
        foreach (var (_, tag) in _pieces)
        {
            if (tag >= 0)
            {
                placed[tag] = true;
            }
        }
    }

    public void Append(IReadOnlyList<string?> texts, bool[] placed)
    {
        for (int tag = 0; tag < texts.Count; tag++)
        {
            if (texts[tag] is { } text && !placed[tag])
            {
                if (_pieces.Count > 0 && _pieces[^1].Text.Length == 0)
                {
                    _pieces.RemoveAt(_pieces.Count - 1); // an empty query or a trailing ampersand already is the delimiter
                }

                _pieces.Add((text, tag));
                Changed = true;
            }
        }
    }

    /// <summary>The pairs as text again; null when none are left.</summary>
    public string? Join() =>
        !Changed ? Raw
        : _pieces.Count == 0 ? null
        : string.Join('&', _pieces.Select(p => p.Text));

    /// <summary>Takes every tag out.</summary>
    public void Strip()
    {
        int before = _pieces.Count;
        _pieces.RemoveAll(p => p.Tag >= 0);
        Changed |= _pieces.Count != before;
    }

    private int IndexOf(string key)
    {
        for (int i = 0; i < _tags.Count; i++)
        {
            if (_tags[i].IsNamed(key))
            {
                return i;
            }
        }

        return -1;
    }
}
