using Microsoft.AspNetCore.Http.HttpResults;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Gives a unit of work up from deep inside, with the refusal to answer.</summary>
public sealed class RefusedException(ProblemHttpResult refusal) : Exception(refusal.ProblemDetails.Detail)
{
    public ProblemHttpResult Refusal { get; } = refusal;
}
