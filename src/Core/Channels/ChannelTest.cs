namespace PreciseBeacon.Core.Channels;

/// <summary>How a channel's condition looks at its subject.</summary>
public enum ChannelTest
{
    /// <summary>Is one of the values, whatever the case.</summary>
    Is,

    /// <summary>Holds one of the values, whatever the case.</summary>
    Contains,

    /// <summary>Has no value.</summary>
    Empty,
}
