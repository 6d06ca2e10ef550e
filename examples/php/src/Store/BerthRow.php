<?php

declare(strict_types=1);

namespace Quayside\Store;

final class BerthRow
{
    public int $number;
    public float $depth;
}
