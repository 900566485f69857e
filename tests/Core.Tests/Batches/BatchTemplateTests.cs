using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.CoreTests.Conventions;

namespace PreciseBeacon.CoreTests.Batches;

public sealed class BatchTemplateTests
{
    [Fact]
    public void Its_columns_follow_the_convention_and_its_headings_bring_it_back_mapped()
    {
        var columns = BatchTemplate.Columns(SampleFiles.Garden, ["Gate poster"], ["Lantern Nights"]);
        Assert.Equal(["Page", "Placement", "Campaign"], columns.Take(3).Select(c => c.Heading));
        Assert.All(columns.Skip(3), c => Assert.NotNull(SampleFiles.Garden.Find(c.Target)));
        Assert.Equal(columns.Count, columns.Select(c => c.Heading).Distinct().Count());
        var medium = columns.Single(c => c.Target == "utm_medium");
        Assert.Contains("email", medium.Words!);
        Assert.Equal(SampleFiles.Garden.Find("utm_medium")!.ClosedList, medium.IsClosed);
        foreach (var choice in SampleFiles.Garden.Choices.Take(1))
        {
            var narrowed = columns.Single(c => c.Target == choice.Narrows);
            Assert.Equal(choice.Field, narrowed.NarrowedBy);
            Assert.Equal(choice.To, narrowed.Narrowed[choice.Word]);
        }

        var recipe = BatchTemplate.RecipeOf(new Table([.. columns.Select(c => c.Heading)], []), SampleFiles.Garden)!;
        Assert.Equal(("Page", "Placement", "Campaign"), (recipe.Destination!.Column, recipe.Placement!.Column, recipe.Campaign!.Column));
        Assert.Equal(columns.Skip(3).Select(c => c.Target), recipe.Fields.Keys);
        Assert.Null(BatchTemplate.RecipeOf(new Table([.. columns.Select(c => c.Heading), "Note"], []), SampleFiles.Garden));
    }
}
