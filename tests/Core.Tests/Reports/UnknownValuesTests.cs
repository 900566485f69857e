using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Reports;

/// <summary>Which values of rows nobody knows (reports, section 4).</summary>
public sealed class UnknownValuesTests
{
    private static readonly Convention Convention = new(
        1,
        [
            new Field
            {
                Key = "utm_source",
                Label = "Source",
                Words = new WordList([new Word("the_trellis"), new Word("herald", "Herald", [], Retired: true)], new ValueRules()),
            },
            new Field
            {
                Key = "way",
                Label = "Medium",
                Means = FieldMeaning.Medium,
                Words = new WordList([new Word("email")], new ValueRules()),
            },
            new Field { Key = "utm_content", Label = "Content" },
            new Field
            {
                Key = "tone",
                Label = "Tone",
                Words = new WordList([new Word("calm")], new ValueRules()),
            },
        ],
        new LinkSettings()
    );

    private static readonly PlanOfVisits Plan = new(
        [new CampaignOfVisit(Guid.NewGuid(), "Bulb Sale", "bulb_sale", new Dictionary<string, string>())],
        [],
        new Dictionary<Guid, LinkOfVisit>()
    );

    [Theory]
    [InlineData("source", "the_trellis", false)]
    [InlineData("source", "herald", false)] // a retired word is known
    [InlineData("source", "the_treliss", true)]
    [InlineData("source", "direct", false)] // what visits without tags have
    [InlineData("source", "herald.example", false)]
    [InlineData("medium", "referral", false)]
    [InlineData("medium", "e-mail", true)]
    [InlineData("content", "anything", false)] // free text is never unknown
    [InlineData("field.tone", "calm", false)]
    [InlineData("field.tone", "loud", true)]
    [InlineData("field.gone", "loud", false)]
    [InlineData("campaign", "bulb_sale", false)]
    [InlineData("campaign", "fern", true)]
    [InlineData("country", "XX", false)]
    [InlineData("source", null, false)]
    [InlineData("campaign", "(many values)", false)]
    [InlineData("campaign", "(removed)", false)]
    public void A_value_is_unknown_where_something_knows_others(string row, string? key, bool unknown) =>
        Assert.Equal(unknown, UnknownValues.IsUnknown(RowField.Parse(row)!, key, Convention, Plan));
}
