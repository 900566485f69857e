using PreciseBeacon.Core.Steps;

namespace PreciseBeacon.CoreTests.Steps;

/// <summary>Steps as calls and addresses write them.</summary>
public sealed class StepTests
{
    [Theory]
    [InlineData("page:/shop/", "page:/shop")]
    [InlineData("PAGEBEGINS: /shop", "pageBegins:/shop")]
    [InlineData("pagePattern:/orders/*/thanks", "pagePattern:/orders/*/thanks")]
    [InlineData("page:https://marrowmere.example/shop", "page:marrowmere.example/shop")]
    [InlineData("event:basket begun", "event:basket begun")]
    [InlineData("event:a:b", "event:a:b")]
    [InlineData("clicked:header banner", "clicked:header banner")]
    [InlineData("conversion:ticket", "conversion:ticket")]
    [InlineData("conversion:", "conversion:")]
    public void A_step_is_read_as_it_is_written(string text, string written)
    {
        var (step, problem) = Step.Parse(text);
        Assert.Null(problem);
        Assert.Equal(written, step!.ToString());
        Assert.Equal(step, Step.Parse(written).Step);
    }

    [Theory]
    [InlineData("")]
    [InlineData("shop")]
    [InlineData(":shop")]
    [InlineData("3:shop")]
    [InlineData("magic:shop")]
    [InlineData("event:")]
    [InlineData("clicked:  ")]
    [InlineData("page:")]
    [InlineData("page:/a*b")]
    [InlineData("pagePattern:/a")]
    [InlineData("page:/a?b=c")]
    public void What_is_no_step_says_why(string text)
    {
        var (step, problem) = Step.Parse(text);
        Assert.Null(step);
        Assert.NotEmpty(problem!);
    }

    [Fact]
    public void A_name_has_an_end() => Assert.Null(Step.Parse("event:" + new string('a', 101)).Step);
}
