<?php

namespace Dues;

final class Bill
{
    public function of(int $nights): int
    {
        return $nights * Rate::PER_NIGHT;
    }
}
