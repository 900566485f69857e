namespace PreciseBeacon.Web.Hosting;

/// <summary>Who may call an endpoint.</summary>
[Flags]
public enum Caller
{
    /// <summary>Anybody, signed in or not.</summary>
    Stranger = 1,
    Viewer = 2,
    Editor = 4,
    Owner = 8,

    /// <summary>Keys made for tools that can only shorten.</summary>
    Shortener = 16,

    /// <summary>Keys made for servers that only report conversions.</summary>
    Measuring = 32,

    /// <summary>Everyone who may look at the workspace.</summary>
    Readers = Viewer | Editor | Owner,

    /// <summary>Everyone who may build links.</summary>
    Builders = Editor | Owner,

    Anybody = Stranger | Readers | Shortener | Measuring,
}

/// <summary>Who may call the endpoint it stands on.</summary>
public sealed record AllowedCallers(Caller Callers);

/// <summary>Says on an endpoint who may call it.</summary>
public static class CallerExtensions
{
    /// <summary>Lets these callers in and nobody else. An endpoint that doesn't say so keeps the application from starting.</summary>
    public static T For<T>(this T endpoint, Caller callers)
        where T : IEndpointConventionBuilder => endpoint.WithMetadata(new AllowedCallers(callers));
}
