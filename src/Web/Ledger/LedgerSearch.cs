using System.Linq.Expressions;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>
/// A search over the Ledger: each of its words has to be found, in any order, in a link's title, address, slug, campaign, placement,
/// publisher or maker, or be one of its topics.
/// </summary>
internal sealed class LedgerSearch
{
    private const int MostWords = 8;

    private readonly List<Word> _words;

    private LedgerSearch(List<Word> words) => _words = words;

    /// <summary>Looks up what the words are names of.</summary>
    /// <param name="db">The database.</param>
    /// <param name="text">Words with spaces between them; those after the eighth are not looked at.</param>
    /// <param name="mostSlugs">Slugs a word is looked up by; where more have it, each link is asked.</param>
    /// <param name="cancel">Gives up.</param>
    public static async Task<LedgerSearch> ReadAsync(BeaconDb db, string text, int mostSlugs, CancellationToken cancel)
    {
        string[] words =
        [
            .. text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Distinct(StringComparer.OrdinalIgnoreCase).Take(MostWords),
        ];
        var campaigns = await db.Campaigns.Select(c => new { c.Id, c.Name }).ToListAsync(cancel);
        var placements = await db.Placements.Select(p => new { p.Id, Name = p.Name + " " + p.Publisher }).ToListAsync(cancel);
        var makers = await db
            .Users.Where(u => db.Members.Any(m => m.UserId == u.Id))
            .Select(u => u.DisplayName)
            .Union(db.ApiKeys.Select(k => k.Name))
            .ToListAsync(cancel);
        var found = new List<Word>();
        foreach (string word in words)
        {
            string pattern = LikePattern.Anywhere(word);
            var slugged = await db
                .ShortLinks.Where(s => EF.Functions.ILike(s.Slug, pattern, LikePattern.Escape))
                .Select(s => s.LinkId)
                .Distinct()
                .Take(mostSlugs + 1)
                .ToListAsync(cancel);
            bool Has(string name) => name.Contains(word, StringComparison.OrdinalIgnoreCase);
            found.Add(
                new Word(
                    pattern,
                    word.ToLowerInvariant(),
                    slugged.Count > mostSlugs ? null : slugged,
                    [.. campaigns.Where(c => Has(c.Name)).Select(c => (Guid?)c.Id)],
                    [.. placements.Where(p => Has(p.Name)).Select(p => (Guid?)p.Id)],
                    [.. makers.Where(Has)]
                )
            );
        }

        return new LedgerSearch(found);
    }

    /// <summary>The links among these that have every word.</summary>
    public IQueryable<Link> Among(IQueryable<Link> links) => _words.Aggregate(links, (left, word) => left.Where(word.Condition()));

    private sealed record Word(
        string Pattern,
        string Topic,
        List<Guid>? Slugged,
        List<Guid?> Campaigns,
        List<Guid?> Placements,
        List<string> Makers
    )
    {
        // What the word is no name of is left out of the condition, so that an index answers what is left.
        public Expression<Func<Link, bool>> Condition()
        {
            string[] topic = [Topic];
            Expression<Func<Link, bool>> condition = Slugged is { } slugged
                ? slugged.Count == 0
                    ? l =>
                        EF.Functions.ILike(l.Title!, Pattern, LikePattern.Escape) || EF.Functions.ILike(l.Url, Pattern, LikePattern.Escape)
                    : l =>
                        EF.Functions.ILike(l.Title!, Pattern, LikePattern.Escape)
                        || EF.Functions.ILike(l.Url, Pattern, LikePattern.Escape)
                        || slugged.Contains(l.Id)
                : l =>
                    EF.Functions.ILike(l.Title!, Pattern, LikePattern.Escape)
                    || EF.Functions.ILike(l.Url, Pattern, LikePattern.Escape)
                    || l.ShortLinks.Any(s => EF.Functions.ILike(s.Slug, Pattern, LikePattern.Escape));
            condition = Campaigns.Count == 0 ? condition : Or(condition, l => Campaigns.Contains(l.CampaignId));
            condition = Placements.Count == 0 ? condition : Or(condition, l => Placements.Contains(l.PlacementId));
            condition = Makers.Count == 0 ? condition : Or(condition, l => Makers.Contains(l.CreatedBy));
            return Or(condition, l => l.Topics != Array.Empty<string>() && topic.All(t => l.Topics.Contains(t)));
        }

        private static Expression<Func<Link, bool>> Or(Expression<Func<Link, bool>> one, Expression<Func<Link, bool>> other)
        {
            var body = new Replaced(other.Parameters[0], one.Parameters[0]).Visit(other.Body);
            return Expression.Lambda<Func<Link, bool>>(Expression.OrElse(one.Body, body), one.Parameters);
        }
    }

    private sealed class Replaced(ParameterExpression from, ParameterExpression to) : ExpressionVisitor
    {
        protected override Expression VisitParameter(ParameterExpression node) => node == from ? to : node;
    }
}
