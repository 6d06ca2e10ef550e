<?php

namespace Dues;

final class Rate
{
    public const PER_NIGHT = 1200;
}
